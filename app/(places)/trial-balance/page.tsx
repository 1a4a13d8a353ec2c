import type { Metadata } from 'next';
import { type Asked, Place } from '@/app/Place';
import { TrialBalancePlace } from '@/ui/screens/TrialBalancePlace';

export const metadata: Metadata = { title: 'Trial balance' };

export default function Page({ searchParams }: Asked) {
  return (
    <Place origin="trial-balance" searchParams={searchParams}>
      <TrialBalancePlace />
    </Place>
  );
}
