import type { Measure } from './traced';

/** Words of the record of work that routes, screens and the store share. */

export const EVIDENCE_KINDS = [
  'note',
  'pin',
  'tick',
  'file',
  'point',
  'question',
  'finding',
  'sample',
  'run',
  'expectation',
  'proposed',
] as const;
export type EvidenceKind = (typeof EVIDENCE_KINDS)[number];

/** Assertions about what is booked and shown (ISA 315.A190, revised 2019). */
export const ASSERTIONS = [
  'existence',
  'occurrence',
  'completeness',
  'accuracy',
  'cut-off',
  'classification',
  'valuation',
  'presentation',
] as const;
export type Assertion = (typeof ASSERTIONS)[number];

/** What a file of evidence holds, where a browser does not show it itself: plain rows and words. */
export type FileContents =
  | { is: 'sheets'; sheets: { name: string; rows: string[][]; more: boolean }[] }
  | { is: 'letter'; text: string; more: boolean }
  | {
      is: 'mail';
      from: string;
      to: string;
      subject: string;
      at: string | null;
      text: string;
      more: boolean;
      attached: { name: string; bytes: number }[];
    }
  | { is: 'nothing'; why: string };

/** What somebody says of what a test found: it stays said of it until one of the lines behind it changes. */
export const JUDGEMENTS = ['explained', 'finding', 'asked', 'open'] as const;
export type Judgement = (typeof JUDGEMENTS)[number];

/** How what a figure is expected to be is reckoned; percents, quantities and amounts as decimals. */
export type ExpectationRule =
  /** The same figure a year before, and so many percent more. */
  | { by: 'year-before'; percent: string }
  /** The average of so many periods before, for each period of the window, and so many percent more. */
  | { by: 'average'; periods: number; percent: string }
  /** So many percent of another figure. */
  | { by: 'share'; of: string; measure: Measure; label: string; percent: string }
  | { by: 'quantity'; quantity: string; price: string }
  | { by: 'own'; amount: string };

/** When tests run by themselves: after each load, or once in each day, week or month. */
export const TESTS_WHEN = ['load', 'day', 'week', 'month'] as const;
export type TestsWhen = (typeof TESTS_WHEN)[number];

/** What an audit sample is drawn of (ISA 530), and how. */
export const SAMPLED_OF = ['lines', 'entries', 'documents'] as const;
export type SampledOf = (typeof SAMPLED_OF)[number];
export const METHODS = ['random', 'systematic', 'stratified', 'largest', 'monetary-unit', 'chosen'] as const;
export type Method = (typeof METHODS)[number];

/** How the size of a sample was reckoned; amounts as text. */
export type Reckoned =
  | { is: 'chosen' }
  | {
      is: 'size';
      size: number;
      /** Where it was reckoned from rates of deviation. */
      tolerableRate?: number;
      expectedRate?: number;
      /** Every so-manieth. */
      step?: number;
      /** Items of each stratum. */
      shares?: number[];
    }
  | {
      is: 'units';
      interval: string;
      /** Where the interval was reckoned and not wanted. */
      tolerable?: string;
      expected?: string;
      factor?: number;
      /** About so many units of so much. */
      size?: number;
      value?: string;
    };

/** Things that people share with each other. */
export const SHARED_KINDS = ['thread', 'scope'] as const;
export type SharedKind = (typeof SHARED_KINDS)[number];

/**
 * What somebody may do with a thread or a kept sentence, each taking in those before it: read it; comment on it; add steps
 * and evidence to it; change its words and shape; say who may do what. The grant of figures goes before all of them.
 */
export const RIGHTS = ['nothing', 'open', 'comment', 'continue', 'change', 'share'] as const;
export type Right = (typeof RIGHTS)[number];

/** What everybody may until somebody says otherwise: a thread is the work of a team, a sentence one's own. */
export const FIRST_RIGHTS: Record<SharedKind, Right> = { thread: 'continue', scope: 'nothing' };

/** What a thread says in words, and what a finding does; figures may be quoted in them. */
export const THREAD_WORDS = ['purpose', 'result', 'conclusion'] as const;
export type ThreadWord = (typeof THREAD_WORDS)[number];
export const FINDING_WORDS = ['cause', 'effect', 'recommendation'] as const;
export type FindingWord = (typeof FINDING_WORDS)[number];

export const FINDING_KINDS = ['error', 'control', 'question', 'improvement'] as const;
export const FINDING_STATES = ['open', 'agreed', 'settled', 'dropped'] as const;

/** Shapes of tick marks, drawn as a pen draws them; each is told from the others without its colour. */
export const TICK_SHAPES = [
  'hook',
  'double hook',
  'barred hook',
  'crossed',
  'ring',
  'ring with dot',
  'triangle',
  'square',
  'diamond',
  'arch',
  'two strokes',
  'fork',
  'star',
  'wave',
] as const;
export type TickShape = (typeof TICK_SHAPES)[number];

export interface TickMark {
  code: string;
  shape: TickShape;
  meaning: string;
  /** No longer given; where it was, it stays. */
  retired: boolean;
}

/** The marks that an installation begins with. */
export const FIRST_TICK_MARKS: readonly TickMark[] = [
  { code: 'agreed-to-document', shape: 'hook', meaning: 'agreed to the document', retired: false },
  { code: 'agreed-to-bank', shape: 'double hook', meaning: 'agreed to the bank statement', retired: false },
  { code: 'recalculated', shape: 'ring', meaning: 'recalculated', retired: false },
  { code: 'cast', shape: 'two strokes', meaning: 'cast: the column adds up', retired: false },
  { code: 'agreed-to-ledger', shape: 'diamond', meaning: 'agreed to another ledger or sheet', retired: false },
  { code: 'confirmed', shape: 'triangle', meaning: 'confirmed by somebody outside', retired: false },
  { code: 'seen', shape: 'square', meaning: 'seen in kind', retired: false },
  { code: 'explained', shape: 'arch', meaning: 'explained', retired: false },
  { code: 'to-be-asked', shape: 'fork', meaning: 'to be asked', retired: false },
  { code: 'not-agreed', shape: 'crossed', meaning: 'does not agree', retired: false },
];
