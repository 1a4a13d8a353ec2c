import type { Metadata } from 'next';
import { FindingPage } from '@/ui/findings/FindingPage';

export const metadata: Metadata = { title: 'Finding' };

export default async function Finding({ params }: { params: Promise<{ id: string }> }) {
  return <FindingPage id={Number((await params).id) || 0} />;
}
