import type { Metadata } from 'next';
import { SamplesPage } from '@/ui/samples/SamplesPage';

export const metadata: Metadata = { title: 'Samples' };

export default function Samples() {
  return <SamplesPage />;
}
