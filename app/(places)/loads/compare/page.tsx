import type { Metadata } from 'next';
import { ComparePage } from '@/ui/loads/ComparePage';

export const metadata: Metadata = { title: 'Compare two loads' };

export default function Page() {
  return <ComparePage />;
}
