import type { Metadata } from 'next';
import { providerName } from '@/cases/people/provider';
import { ownPath } from '@/ui/people/ownPath';
import { SignInForm } from '@/ui/people/SignInForm';

export const metadata: Metadata = { title: 'Sign in' };

export default async function SignInPage({
  searchParams,
}: {
  searchParams: Promise<{ to?: string | string[]; 'not-in'?: string | string[] }>;
}) {
  const { to, 'not-in': notIn } = await searchParams;
  return <SignInForm to={ownPath(to)} provider={providerName()} notIn={typeof notIn === 'string' ? notIn : null} />;
}
