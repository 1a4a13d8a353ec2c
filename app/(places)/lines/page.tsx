import type { Metadata } from 'next';
import { ThreadScreen } from '@/ui/screens/ThreadScreen';

export const metadata: Metadata = { title: 'Lines' };

export default function LinesPage() {
  return <ThreadScreen origin="lines" />;
}
