import type { Metadata } from 'next';
import { PartiesPage } from '@/ui/accounts/PartiesPage';

export const metadata: Metadata = { title: 'Customers and suppliers' };

export default function Page() {
  return <PartiesPage />;
}
