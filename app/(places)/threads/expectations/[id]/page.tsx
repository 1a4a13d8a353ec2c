import type { Metadata } from 'next';
import { ExpectationPage } from '@/ui/expectations/ExpectationPage';

export const metadata: Metadata = { title: 'Expectation' };

export default async function Expectation({ params }: { params: Promise<{ id: string }> }) {
  return <ExpectationPage id={Number((await params).id) || 0} />;
}
