import type { Metadata } from 'next';
import { RunsPage } from '@/ui/tests/RunsPage';

export const metadata: Metadata = { title: 'Tests' };

export default function Tests() {
  return <RunsPage />;
}
