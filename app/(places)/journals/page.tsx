import type { Metadata } from 'next';
import { JournalsPage } from '@/ui/journals/JournalsPage';

export const metadata: Metadata = { title: 'Journals' };

export default function Page() {
  return <JournalsPage />;
}
