import { AsyncLocalStorage } from 'node:async_hooks';

/** Who is being answered: what a question to the store is cancelled with, shared out by, and written down under. */
export interface Asking {
  /** The same in the answer's header and in the log. */
  id: string;
  /** Aborted when whoever asks has gone. */
  signal: AbortSignal;
  /** E-mail of the person, once that is known. */
  person: string | null;
  /** What answered, in which time: filled where it was asked for. */
  explained?: Explained[];
  /** In which language and country they write numbers; absent: not known. */
  locale?: string;
}

/** One question to the store, for whoever tunes. */
export interface Explained {
  /** The tables, or the copies by columns, that it was asked of. */
  of: string;
  /** Why of them; absent: there is nothing to choose. */
  why?: string;
  ms: number;
}

// The server and the pages that it serves are built apart, and meet here.
const KEY = Symbol.for('just-thread.asking');
const shared = globalThis as unknown as Record<symbol, AsyncLocalStorage<Asking> | undefined>;
shared[KEY] ??= new AsyncLocalStorage<Asking>();
const storage = shared[KEY];

/** Who is being answered here and now; nobody in a job or on the command line. */
export const whoAsks = (): Asking | undefined => storage.getStore();

/** What others take part in is asked for nobody: it is not given up when the one who happened to ask first leaves. */
export const forEverybody = <T>(act: () => T): T => storage.run(undefined as never, act);

/** Everything that `act` asks the store is asked for them. */
export const answering = <T>(asking: Asking, act: () => T): T => storage.run(asking, act);
