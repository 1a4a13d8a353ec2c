import type { Metadata } from 'next';
import { ChartPage } from '@/ui/accounts/ChartPage';

export const metadata: Metadata = { title: 'Accounts' };

export default function Page() {
  return <ChartPage />;
}
