import type { Metadata } from 'next';
import { NewPasswordForm } from '@/ui/people/NewPasswordForm';

export const metadata: Metadata = { title: 'A new password' };
// Each answer has a nonce of its own, so that no page is made beforehand.
export const dynamic = 'force-dynamic';

export default function NewPassword() {
  return <NewPasswordForm />;
}
