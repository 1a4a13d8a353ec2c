import type { Metadata } from 'next';
import { FrozenListPage } from '@/ui/leaving/FrozenListPage';

export const metadata: Metadata = { title: 'Frozen copies' };

export default function FrozenList() {
  return <FrozenListPage />;
}
