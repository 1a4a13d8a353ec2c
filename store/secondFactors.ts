import { type Db, rowsOf } from './db';

/** What a person proves beside their password that they hold: a secret of theirs, kept encrypted. */
export interface FactorRow {
  person: number;
  secret: string;
  /** Null until a first code was right. */
  confirmed_at: Date | null;
  /** The last step of time of which a code was taken: none is taken twice. */
  last_step: number;
}

export const factorOf = async (db: Db, person: number): Promise<FactorRow | null> =>
  (await rowsOf<FactorRow>(db, 'select * from second_factor where person = ?', [person]))[0] ?? null;

/** Begins anew: what was confirmed before is confirmed no more. */
export const beginFactor = (db: Db, person: number, secret: string): Promise<unknown> =>
  db('second_factor').insert({ person, secret, confirmed_at: null, last_step: 0 }).onConflict('person').merge();

/** @returns whether the code's step of time was not taken before */
export const takeStep = async (db: Db, person: number, step: number): Promise<boolean> =>
  (await db('second_factor')
    .where({ person })
    .andWhere('last_step', '<', step)
    .update({ last_step: step, confirmed_at: db.raw('coalesce(confirmed_at, now())') })) === 1;

export const endFactor = (db: Db, person: number): Promise<number> => db('second_factor').where({ person }).delete();
