import type { Metadata } from 'next';
import { ThreadScreen } from '@/ui/screens/ThreadScreen';

export const metadata: Metadata = { title: 'Trial balance' };

export default function TrialBalancePage() {
  return <ThreadScreen origin="trial-balance" />;
}
