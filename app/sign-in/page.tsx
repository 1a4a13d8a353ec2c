import type { Metadata } from 'next';
import { SignInForm } from '@/ui/people/SignInForm';

export const metadata: Metadata = { title: 'Sign in' };

export default async function SignInPage({ searchParams }: { searchParams: Promise<{ to?: string }> }) {
  const { to } = await searchParams;
  return <SignInForm to={to?.startsWith('/') && !to.startsWith('//') ? to : '/trial-balance'} />;
}
