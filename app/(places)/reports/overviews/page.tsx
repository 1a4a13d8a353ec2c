import type { Metadata } from 'next';
import { OverviewsPage } from '@/ui/overview/OverviewsPage';

export const metadata: Metadata = { title: 'Overviews' };

export default function Overviews() {
  return <OverviewsPage />;
}
