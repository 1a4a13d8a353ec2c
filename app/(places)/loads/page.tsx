import type { Metadata } from 'next';
import { LoadsPage } from '@/ui/loads/LoadsPage';

export const metadata: Metadata = { title: 'Loads' };

export default function Loads() {
  return <LoadsPage />;
}
