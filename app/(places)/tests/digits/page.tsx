import type { Metadata } from 'next';
import { DigitsPage } from '@/ui/tests/DigitsPage';

export const metadata: Metadata = { title: 'First digits' };

export default function Digits() {
  return <DigitsPage />;
}
