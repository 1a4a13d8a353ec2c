import type { Metadata } from 'next';
import { SourceLinksPage } from '@/ui/settings/SourceLinksPage';

export const metadata: Metadata = { title: 'Source ledgers' };

export default function Sources() {
  return <SourceLinksPage />;
}
