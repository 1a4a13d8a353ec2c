import type { Metadata } from 'next';
import { ProposalPage } from '@/ui/proposals/ProposalPage';

export const metadata: Metadata = { title: 'Proposed entry' };

export default async function Proposal({ params }: { params: Promise<{ id: string }> }) {
  return <ProposalPage id={Number((await params).id) || 0} />;
}
