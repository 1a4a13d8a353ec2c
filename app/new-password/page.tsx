import type { Metadata } from 'next';
import { NewPasswordForm } from '@/ui/people/NewPasswordForm';

export const metadata: Metadata = { title: 'A new password' };

export default function NewPassword() {
  return <NewPasswordForm />;
}
