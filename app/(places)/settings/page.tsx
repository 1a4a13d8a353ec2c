import type { Metadata } from 'next';
import { PeoplePage } from '@/ui/people/PeoplePage';

export const metadata: Metadata = { title: 'Settings' };

export default function Settings() {
  return <PeoplePage />;
}
