import type { Metadata } from 'next';
import { RegisterPage } from '@/ui/documents/RegisterPage';

export const metadata: Metadata = { title: 'Every document' };

export default function Page() {
  return <RegisterPage />;
}
