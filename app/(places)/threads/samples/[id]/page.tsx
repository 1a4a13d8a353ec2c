import type { Metadata } from 'next';
import { SamplePage } from '@/ui/samples/SamplePage';

export const metadata: Metadata = { title: 'Sample' };

export default async function Sample({ params }: { params: Promise<{ id: string }> }) {
  return <SamplePage id={Number((await params).id) || 0} />;
}
