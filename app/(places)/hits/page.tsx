import type { Metadata } from 'next';
import { type Asked, Place } from '@/app/Place';
import { HitsPlace } from '@/ui/screens/HitsPlace';

export const metadata: Metadata = { title: 'What tests found' };

export default function Page({ searchParams }: Asked) {
  return (
    <Place origin="hits" searchParams={searchParams}>
      <HitsPlace />
    </Place>
  );
}
