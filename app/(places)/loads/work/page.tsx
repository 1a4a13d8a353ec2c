import type { Metadata } from 'next';
import { WorkPage } from '@/ui/loads/WorkPage';

export const metadata: Metadata = { title: 'Work under way' };

export default function Work() {
  return <WorkPage />;
}
