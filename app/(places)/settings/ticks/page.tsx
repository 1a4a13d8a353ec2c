import type { Metadata } from 'next';
import { TickMarksPage } from '@/ui/settings/TickMarksPage';

export const metadata: Metadata = { title: 'Tick marks' };

export default function Ticks() {
  return <TickMarksPage />;
}
