import type { Metadata } from 'next';
import { ExpectationsPage } from '@/ui/expectations/ExpectationsPage';

export const metadata: Metadata = { title: 'Expectations' };

export default function Expectations() {
  return <ExpectationsPage />;
}
