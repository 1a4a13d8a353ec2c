import type { Metadata } from 'next';
import { HoldingsPage } from '@/ui/accounts/HoldingsPage';

export const metadata: Metadata = { title: 'Bank and cash' };

export default function Page() {
  return <HoldingsPage />;
}
