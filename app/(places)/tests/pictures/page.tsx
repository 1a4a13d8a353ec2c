import type { Metadata } from 'next';
import { PicturesPage } from '@/ui/tests/pictures/PicturesPage';

export const metadata: Metadata = { title: 'Pictures' };

export default function Pictures() {
  return <PicturesPage picture="entered" />;
}
