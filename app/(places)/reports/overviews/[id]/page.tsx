import type { Metadata } from 'next';
import { OverviewPage } from '@/ui/overview/OverviewPage';

export const metadata: Metadata = { title: 'Overview' };

export default async function Overview({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  return <OverviewPage id={Number(id)} />;
}
