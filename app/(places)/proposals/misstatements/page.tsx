import type { Metadata } from 'next';
import { MisstatementsPage } from '@/ui/proposals/MisstatementsPage';

export const metadata: Metadata = { title: 'Misstatements' };

export default function Misstatements() {
  return <MisstatementsPage />;
}
