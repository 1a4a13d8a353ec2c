import type { Metadata } from 'next';
import { type Asked, Place } from '@/app/Place';
import { LinesPlace } from '@/ui/screens/LinesPlace';

export const metadata: Metadata = { title: 'Lines' };

export default function Page({ searchParams }: Asked) {
  return (
    <Place origin="lines" searchParams={searchParams}>
      <LinesPlace />
    </Place>
  );
}
