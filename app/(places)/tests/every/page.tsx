import type { Metadata } from 'next';
import { EveryTestPage } from '@/ui/tests/EveryTestPage';

export const metadata: Metadata = { title: 'Every test' };

export default function EveryTest() {
  return <EveryTestPage />;
}
