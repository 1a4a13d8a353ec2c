import type { Metadata } from 'next';
import { type Asked, Place } from '@/app/Place';
import { StatementsPlace } from '@/ui/screens/StatementsPlace';

export const metadata: Metadata = { title: 'Statements' };

export default function Page({ searchParams }: Asked) {
  return (
    <Place origin="statements" searchParams={searchParams}>
      <StatementsPlace />
    </Place>
  );
}
