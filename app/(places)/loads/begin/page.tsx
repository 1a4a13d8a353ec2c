import type { Metadata } from 'next';
import { BeginPage } from '@/ui/loads/BeginPage';

export const metadata: Metadata = { title: 'Bring in a ledger' };

export default function Page() {
  return <BeginPage />;
}
