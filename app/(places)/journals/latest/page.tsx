import type { Metadata } from 'next';
import { LatestPage } from '@/ui/journals/LatestPage';

export const metadata: Metadata = { title: 'Entered lately' };

export default function Page() {
  return <LatestPage />;
}
