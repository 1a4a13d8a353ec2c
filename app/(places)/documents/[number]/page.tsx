import type { Metadata } from 'next';
import { DocumentPage } from '@/ui/documents/DocumentPage';

export const metadata: Metadata = { title: 'Document' };

export default async function Page({ params }: { params: Promise<{ number: string }> }) {
  return <DocumentPage number={decodeURIComponent((await params).number)} />;
}
