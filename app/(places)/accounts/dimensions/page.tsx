import type { Metadata } from 'next';
import { DimensionsPage } from '@/ui/accounts/DimensionsPage';

export const metadata: Metadata = { title: 'Dimensions' };

export default function Page() {
  return <DimensionsPage />;
}
