import type { Metadata } from 'next';
import { ThreadPage } from '@/ui/keptThreads/ThreadPage';

export const metadata: Metadata = { title: 'Thread' };

export default async function Thread({ params }: { params: Promise<{ id: string }> }) {
  return <ThreadPage id={Number((await params).id) || 0} />;
}
