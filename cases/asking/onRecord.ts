import type { Knex } from 'knex';
import type { Act } from '@/contracts/acts';
import { addToRecord, type Head } from '@/store/record';
import type { Context } from './context';
import type { Viewer } from './viewer';

/** Puts an act on record, in the transaction of what was done. @param subject what it was done to */
export type Recorder = (act: Act, subject: string, detail?: object) => Promise<Head>;

/**
 * Does a change and puts it on the record of who did what: both, or neither.
 * @param viewer who does it, and from where; null: the command line
 */
export const onRecord = <T>(
  ctx: Context,
  viewer: Pick<Viewer, 'id' | 'name' | 'cameFrom'> | null,
  change: (trx: Knex.Transaction, record: Recorder) => Promise<T>,
  db: Knex = ctx.write,
): Promise<T> =>
  db.transaction((trx) =>
    change(trx, (act, subject, detail = {}) =>
      addToRecord(trx, {
        person: viewer?.id ?? null,
        personName: viewer?.name ?? 'command line',
        act,
        subject,
        detail: { ...detail, ...(viewer?.cameFrom ? { cameFrom: viewer.cameFrom } : {}) } as Record<string, unknown>,
      }),
    ),
  );

/** Letters of a hash that a file's name bears; the whole is in the answer's header. */
const HASH_SHOWN = 16;

/** How far the record went, as the name of a file that leaves bears it. */
export const headName = ({ number, hash }: Head): string => `record-${number}-${hash.slice(0, HASH_SHOWN)}`;
