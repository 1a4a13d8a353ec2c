import type { Metadata } from 'next';
import { ownPath } from '@/ui/people/ownPath';
import { SignInForm } from '@/ui/people/SignInForm';

export const metadata: Metadata = { title: 'Sign in' };

export default async function SignInPage({ searchParams }: { searchParams: Promise<{ to?: string | string[] }> }) {
  const { to } = await searchParams;
  return <SignInForm to={ownPath(to)} />;
}
