import type { Metadata } from 'next';
import { RunPage } from '@/ui/tests/RunPage';

export const metadata: Metadata = { title: 'Run of tests' };

export default async function RunOfTests({ params }: { params: Promise<{ id: string }> }) {
  return <RunPage id={Number((await params).id) || 0} />;
}
