import type { Metadata } from 'next';
import { RecordPage } from '@/ui/settings/RecordPage';

export const metadata: Metadata = { title: 'Record' };

export default function Record() {
  return <RecordPage />;
}
