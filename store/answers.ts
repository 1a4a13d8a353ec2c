import { LRUCache } from 'lru-cache';
import type { Catalogue } from './catalogue';

/** Rows that are kept in memory; the ones asked for longest ago give way. */
const ROWS_MAX = 200_000;

type Read = () => Promise<object[]>;
const kept = new WeakMap<Catalogue, LRUCache<string, object[], Read>>();

/**
 * Rows of a question about figures, read once however many ask: a page asks for the same sums in several answers, and so
 * do colleagues who read the same statement. Lines and summaries are only ever added to, under a new load number, and
 * every such question names the load as of which it is asked. All else that an answer rests on is the catalogue, which
 * is read anew after any load or new entity: what was kept under the former one goes with it.
 * @param question SQL with its bindings
 */
export async function remembered<Row extends object>(catalogue: Catalogue, question: string, read: () => Promise<Row[]>): Promise<readonly Row[]> {
  let answers = kept.get(catalogue);
  if (!answers) {
    answers = new LRUCache({
      maxSize: ROWS_MAX,
      sizeCalculation: (rows) => rows.length + 1,
      fetchMethod: (_key, _former, { context }) => context(),
      // Who waits for an answer gets it, though room had to be made meanwhile.
      ignoreFetchAbort: true,
    });
    kept.set(catalogue, answers);
  }
  return (await answers.fetch(question, { context: read })) as Row[];
}

/** Forgets what was kept, so that the next question is asked of the database: for measuring. */
export const forget = (catalogue: Catalogue): void => void kept.delete(catalogue);
