import type { Metadata } from 'next';
import { TablePage } from '@/ui/proposals/TablePage';

export const metadata: Metadata = { title: 'From a table' };

export default function Table() {
  return <TablePage />;
}
