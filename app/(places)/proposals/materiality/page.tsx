import type { Metadata } from 'next';
import { MaterialityPage } from '@/ui/proposals/MaterialityPage';

export const metadata: Metadata = { title: 'Materiality' };

export default function Materiality() {
  return <MaterialityPage />;
}
