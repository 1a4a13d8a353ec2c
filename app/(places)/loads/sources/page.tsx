import type { Metadata } from 'next';
import { SourcesPage } from '@/ui/loads/SourcesPage';

export const metadata: Metadata = { title: 'Sources' };

export default function Page() {
  return <SourcesPage />;
}
