import type { Metadata } from 'next';
import { QuestionPage } from '@/ui/desk/QuestionPage';

export const metadata: Metadata = { title: 'Question' };

export default async function Question({ params }: { params: Promise<{ id: string }> }) {
  return <QuestionPage id={Number((await params).id) || 0} />;
}
