import type { Metadata } from 'next';
import { ThreadsPage } from '@/ui/keptThreads/ThreadsPage';

export const metadata: Metadata = { title: 'Threads' };

export default function Threads() {
  return <ThreadsPage />;
}
