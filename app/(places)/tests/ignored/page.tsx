import type { Metadata } from 'next';
import { IgnoredPage } from '@/ui/tests/IgnoredPage';

export const metadata: Metadata = { title: 'Ignored hits' };

export default function Ignored() {
  return <IgnoredPage />;
}
