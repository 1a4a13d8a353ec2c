import type { Metadata } from 'next';
import { ReportsPage } from '@/ui/leaving/ReportsPage';

export const metadata: Metadata = { title: 'Reports' };

export default function Reports() {
  return <ReportsPage />;
}
