import { loadSubject } from '@/store/loads';
import type { Context } from '../asking/context';
import { keepCashBasis } from '../documents/cashBasis';
import { readFiles } from '../documents/readFiles';
import { keepDrifts } from '../evidence/drift';
import { makeExport } from '../leaving/makeExport';
import { runSchedule } from '../leaving/schedules';
import { pullConnection, pullPutAside } from '../loads/connections';
import { copyLines } from '../loads/copyLines';
import { lookAtFile } from '../loads/inspectFile';
import { runLoadsUpTo } from '../loads/loading/runLoads';
import { proposeAtLength } from '../loads/proposeLedger';
import { sealLoad } from '../loads/sealLoad';
import { sendMail } from '../mail/sendMail';
import { lookOver } from '../tests/lookOver';
import type { JobKind } from './jobs';
import { answerAtLength } from './longQuestions';
import type { Work } from './work';

/** What a job may take, beyond which the process that works at it is ended. */
export interface Limits {
  memoryBytes: number;
  timeMs: number;
}

interface Kind {
  run(work: Work): Promise<{ message?: string; result?: unknown }>;
  /** @param bytes size of the file that it is about; 0 if of none */
  limits(bytes: number): Limits;
  /** It may wait for others of its kind before it begins: its time counts from when it says so. */
  waits?: boolean;
  /** What else is to be said where it was put aside. */
  putAside?(ctx: Context, subject: string, reason: string): Promise<void>;
}

const MB = 1024 ** 2;
const SECOND = 1_000;

const numberOf = (subject: string): number => Number(subject.split(' ')[1]);

/** Every kind of long work: who does it, and what it may take. */
export const KINDS: Record<JobKind, Kind> = {
  look: {
    run: lookAtFile,
    // Somebody waits for it, and it reads a sample.
    limits: () => ({ memoryBytes: 700 * MB, timeMs: 8 * SECOND }),
  },
  propose: {
    run: proposeAtLength,
    // Somebody waits for it, and it reads the whole file once.
    limits: (bytes) => ({ memoryBytes: 1_000 * MB, timeMs: 30 * SECOND + bytes / 10 }),
  },
  question: {
    run: answerAtLength,
    // As long as a patient question may take in the store, and some time to print it.
    limits: () => ({ memoryBytes: 1_000 * MB, timeMs: 140 * SECOND }),
  },
  load: {
    run: async ({ ctx, job, begin }) => {
      await runLoadsUpTo(ctx, numberOf(job.subject), (load) => begin(loadSubject(load)));
      return {};
    },
    waits: true,
    // Measured: ten million lines (1.2 GB) take 754 MB and 90 seconds.
    limits: (bytes) => ({ memoryBytes: 1_400 * MB + bytes / 4, timeMs: 60 * SECOND + bytes / 50 }),
  },
  pull: {
    run: ({ ctx, job, tell }) => pullConnection(ctx, numberOf(job.subject), tell),
    putAside: (ctx, subject, reason) => pullPutAside(ctx, numberOf(subject), reason),
    limits: () => ({ memoryBytes: 500 * MB, timeMs: 3_600 * SECOND }),
  },
  drift: {
    run: ({ ctx, job, tell }) => keepDrifts(ctx, numberOf(job.subject), tell),
    limits: () => ({ memoryBytes: 500 * MB, timeMs: 3_600 * SECOND }),
  },
  mail: {
    run: sendMail,
    limits: () => ({ memoryBytes: 300 * MB, timeMs: 120 * SECOND }),
  },
  'cash basis': {
    run: keepCashBasis,
    waits: true,
    limits: () => ({ memoryBytes: 500 * MB, timeMs: 3_600 * SECOND }),
  },
  columns: {
    run: copyLines,
    // Measured: ten million lines take 1.9 GB and three to five minutes.
    limits: () => ({ memoryBytes: 2_500 * MB, timeMs: 3_600 * SECOND }),
  },
  files: {
    run: readFiles,
    // A file is read as a whole, and one that was made to do harm may want much.
    limits: () => ({ memoryBytes: 900 * MB, timeMs: 3_600 * SECOND }),
  },
  tests: {
    run: lookOver,
    // The engine keeps so much in memory, and what is more in a folder.
    limits: () => ({ memoryBytes: 3_000 * MB, timeMs: 3_600 * SECOND }),
  },
  export: {
    run: makeExport,
    // It is written as it is read; paper of fifty thousand rows is set as a whole.
    limits: () => ({ memoryBytes: 1_500 * MB, timeMs: 3_600 * SECOND }),
  },
  schedule: {
    run: runSchedule,
    limits: () => ({ memoryBytes: 1_500 * MB, timeMs: 3_600 * SECOND }),
  },
  seal: {
    run: ({ ctx, job, tell }) => sealLoad(ctx, numberOf(job.subject), tell),
    limits: () => ({ memoryBytes: 500 * MB, timeMs: 3_600 * SECOND }),
  },
};
