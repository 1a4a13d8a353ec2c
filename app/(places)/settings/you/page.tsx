import type { Metadata } from 'next';
import { YouPage } from '@/ui/people/YouPage';

export const metadata: Metadata = { title: 'You' };

export default function You() {
  return <YouPage />;
}
