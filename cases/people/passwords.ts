import { hash, verify } from '@node-rs/argon2';
import { dictionary } from '@zxcvbn-ts/language-common';
import { wrong } from '@/contracts/problem';
import { FairShare } from '@/store/fairShare';

/** Argon2id with the parameters that OWASP's password storage guidance gives as a minimum. */
const ARGON = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };
/** NIST SP 800-63B 5.1.1.2 asks for 8 at least, OWASP ASVS 4.0.3 2.1.1 for 12; both for no rules of composition. */
export const PASSWORD_LEAST = 12;
/** A password made of fewer different characters is a pattern. */
const DIFFERENT_LEAST = 5;
/** A word of one's own shorter than this says nothing. */
const OWN_WORD_LEAST = 4;
/** Without them so many letters are left at least. */
const REST_LEAST = 8;

// Letters as NIST SP 800-63B 5.1.1.2 has them put into one form, so that a password is the same on every keyboard.
const settled = (password: string): string => password.normalize('NFKC');

/** Verifying takes a core for a while: two at once, shared out by where they come from, so that nobody's flood shuts others out. */
const verifying = new FairShare(2, 1, 15_000);

export const hashOf = (password: string): Promise<string> => hash(settled(password), ARGON);

export const isRight = (kept: string, password: string, from: string): Promise<boolean> =>
  verifying.run(from, null, () => verify(kept, settled(password)).catch(() => false));

let common: ReadonlySet<string> | null = null;
/** The passwords that are tried first by whoever guesses. */
const commonOnes = (): ReadonlySet<string> => {
  common ??= new Set(dictionary['passwords-common']);
  return common;
};

/**
 * Whether somebody may take a password: long enough, not one that is guessed first, nor made of what is known of them.
 * @param own words of their own: name, e-mail, the product's name
 * @throws ProblemError saying what is wrong with it
 */
export function checkPassword(password: string, own: readonly string[]): void {
  const text = settled(password).toLowerCase();
  const fault = (message: string): never => {
    throw wrong('password', message);
  };
  if (Array.from(text).length < PASSWORD_LEAST)
    fault(`a password has at least ${PASSWORD_LEAST} characters; several words together are easy to keep in mind`);
  if (new Set(text).size < DIFFERENT_LEAST || isRun(text))
    fault('this is a pattern that is guessed at once; take several words that do not belong together');
  const bare = text.replace(/[^\p{L}]+$/u, '');
  for (const one of [text, bare, unitOf(text)])
    if (commonOnes().has(one))
      fault('this is among the passwords that are guessed first; take several words that do not belong together');
  const words = own
    .flatMap((o) => o.toLowerCase().split(/[^\p{L}\p{N}]+/u))
    .filter((word) => word.length >= OWN_WORD_LEAST);
  const rest = words.sort((a, b) => b.length - a.length).reduce((left, word) => left.replaceAll(word, ''), text);
  if (rest !== text && rest.replace(/[^\p{L}\p{N}]/gu, '').length < REST_LEAST)
    fault('this is mostly your name, your e-mail or the name of this place; take words that nobody connects with you');
}

/** What a text repeats; itself if nothing. */
function unitOf(text: string): string {
  const at = (text + text).indexOf(text, 1);
  return text.slice(0, at);
}

/** Letters or digits that follow one another, such as 123456789012 or abcdefghijkl. */
function isRun(text: string): boolean {
  const letters = Array.from(text);
  const steps = letters
    .slice(1)
    .map((letter, i) => (letter.codePointAt(0) as number) - ((letters[i] as string).codePointAt(0) as number));
  return steps.filter((step) => Math.abs(step) === 1).length >= letters.length * 0.75;
}
