import type { Metadata } from 'next';
import { FilesPage } from '@/ui/leaving/FilesPage';

export const metadata: Metadata = { title: 'Files made for you' };

export default function Files() {
  return <FilesPage />;
}
