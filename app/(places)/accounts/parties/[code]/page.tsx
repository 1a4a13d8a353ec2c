import type { Metadata } from 'next';
import { PartyPage } from '@/ui/documents/PartyPage';

export const metadata: Metadata = { title: 'Customer or supplier' };

export default async function Page({ params }: { params: Promise<{ code: string }> }) {
  return <PartyPage code={decodeURIComponent((await params).code)} />;
}
