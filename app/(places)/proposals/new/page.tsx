import type { Metadata } from 'next';
import { ProposePage } from '@/ui/proposals/ProposePage';

export const metadata: Metadata = { title: 'Propose an entry' };

export default async function Propose({ searchParams }: { searchParams: Promise<{ template?: string }> }) {
  const template = Number((await searchParams).template) || undefined;
  return <ProposePage template={template} />;
}
