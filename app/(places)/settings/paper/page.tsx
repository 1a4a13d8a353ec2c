import type { Metadata } from 'next';
import { LetterheadPage } from '@/ui/settings/LetterheadPage';

export const metadata: Metadata = { title: 'On paper' };

export default function Paper() {
  return <LetterheadPage />;
}
