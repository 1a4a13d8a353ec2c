import { readSubject } from '@/contracts/subject';

/** The first company that a subject names; empty where it names none. */
export function entityOf(text: string): string {
  const subject = readSubject(text);
  if (subject.is === 'figure') return new URLSearchParams(subject.address).get('entity') ?? '';
  return 'entity' in subject ? subject.entity : '';
}
