import type { Metadata } from 'next';
import { SearchPage } from '@/ui/search/SearchPage';

export const metadata: Metadata = { title: 'Find' };

export default function Page() {
  return <SearchPage />;
}
