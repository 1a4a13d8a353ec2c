import type { Metadata } from 'next';
import { SetsPage } from '@/ui/proposals/SetsPage';

export const metadata: Metadata = { title: 'Sets and templates' };

export default function Sets() {
  return <SetsPage />;
}
