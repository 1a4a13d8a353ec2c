import type { Metadata } from 'next';
import { LookPage } from '@/ui/tests/LookPage';

export const metadata: Metadata = { title: 'First look' };

export default function Look() {
  return <LookPage />;
}
