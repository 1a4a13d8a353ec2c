import type { Metadata } from 'next';
import { FirstOwnerForm } from '@/ui/people/FirstOwnerForm';

export const metadata: Metadata = { title: 'Welcome' };

export default function Welcome() {
  return <FirstOwnerForm />;
}
