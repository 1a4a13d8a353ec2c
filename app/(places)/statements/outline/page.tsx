import type { Metadata } from 'next';
import { OutlinePage } from '@/ui/statements/OutlinePage';

export const metadata: Metadata = { title: 'Outline' };

export default function Page() {
  return <OutlinePage />;
}
