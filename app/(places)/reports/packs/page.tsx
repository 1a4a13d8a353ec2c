import type { Metadata } from 'next';
import { PacksPage } from '@/ui/leaving/PacksPage';

export const metadata: Metadata = { title: 'Packs' };

export default function Packs() {
  return <PacksPage />;
}
