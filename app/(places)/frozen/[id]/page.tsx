import type { Metadata } from 'next';
import { FrozenPage } from '@/ui/leaving/FrozenPage';

export const metadata: Metadata = { title: 'Frozen copy' };

export default async function Frozen({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  return <FrozenPage id={id} />;
}
