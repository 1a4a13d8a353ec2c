import type { Metadata } from 'next';
import { FindingsPage } from '@/ui/findings/FindingsPage';

export const metadata: Metadata = { title: 'Findings' };

export default function Findings() {
  return <FindingsPage />;
}
