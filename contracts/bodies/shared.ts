import { z } from 'zod';
import { isDate } from '@/core/dates';
import { ownPathOf } from '../ownPath';
import { richTextSchema } from '../richText';
import { MEASURES } from '../traced';

/** What several bodies of requests have in common. */

/** Bytes of a body that is no file. */
export const BODY_MAX = 256 * 1024;

export const TOO_LARGE = `The request is too large; it holds at most ${BODY_MAX / 1024} kB`;

/** An address of a screen of our own, to lead back to it; no other place. */
export const ownAddress = z
  .string()
  .max(8_000)
  .refine(
    (address) => /^\/(?![/\\])/.test(address) && ownPathOf(address) !== null,
    'give the address of a screen, which begins with /',
  );

/** A day as it is sent. */
export const date = z.string().refine(isDate, 'write a date as 2026-04-30');

/** What a piece of evidence is about, and the screen on which it was made, to lead back to it. */
export const about = {
  subject: z.string().min(1).max(6_000),
  measure: z.enum(MEASURES).nullable().default(null),
  address: ownAddress.or(z.literal('')).default(''),
  label: z.string().max(300).default(''),
  /** The thread that is being worked on, which gathers it. */
  thread: z.number().int().positive().nullable().default(null),
};

export const prose = z.union([z.string().trim().max(8_000), richTextSchema]);

export const money = z.string().trim().min(1).max(40);
