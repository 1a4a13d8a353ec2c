import type { Metadata } from 'next';
import { ProposalsPage } from '@/ui/proposals/ProposalsPage';

export const metadata: Metadata = { title: 'Proposed entries' };

export default function Proposals() {
  return <ProposalsPage />;
}
