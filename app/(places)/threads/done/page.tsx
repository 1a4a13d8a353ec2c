import type { Metadata } from 'next';
import { WorkDonePage } from '@/ui/keptThreads/WorkDonePage';

export const metadata: Metadata = { title: 'What is done' };

export default function Done() {
  return <WorkDonePage />;
}
