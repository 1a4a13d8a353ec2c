import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { isPicture, PICTURES } from '@/ui/tests/pictures/list';
import { PicturesPage } from '@/ui/tests/pictures/PicturesPage';

type Props = Readonly<{ params: Promise<{ picture: string }> }>;

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const { picture } = await params;
  return { title: isPicture(picture) ? PICTURES[picture] : 'Pictures' };
}

export default async function Picture({ params }: Props) {
  const { picture } = await params;
  if (!isPicture(picture)) notFound();
  return <PicturesPage picture={picture} />;
}
