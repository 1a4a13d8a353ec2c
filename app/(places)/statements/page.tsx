import type { Metadata } from 'next';
import { ThreadScreen } from '@/ui/screens/ThreadScreen';

export const metadata: Metadata = { title: 'Statements' };

export default function StatementsPage() {
  return <ThreadScreen origin="statements" />;
}
