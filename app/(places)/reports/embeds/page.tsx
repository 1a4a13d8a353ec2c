import type { Metadata } from 'next';
import { EmbedsPage } from '@/ui/leaving/EmbedsPage';

export const metadata: Metadata = { title: 'On other pages' };

export default function Embeds() {
  return <EmbedsPage />;
}
