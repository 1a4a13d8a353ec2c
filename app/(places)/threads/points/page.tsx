import type { Metadata } from 'next';
import { PointsPage } from '@/ui/keptThreads/PointsPage';

export const metadata: Metadata = { title: 'Review points' };

export default function Points() {
  return <PointsPage />;
}
