import type { ProposedKind, ProposedState } from '@/core/proposedEntry';

/** Lists that are asked again after an entry was proposed or changed: every figure may be another. */
export const TOUCHES = 'everything' as const;

export const KIND_WORD: Record<ProposedKind, string> = {
  factual: 'Factual',
  judgemental: 'Judgemental',
  projected: 'Projected',
  reclassification: 'Reclassification',
  forecast: 'Plan or forecast',
};

export const KIND_SAYS: Record<ProposedKind, string> = {
  factual: 'there is no doubt about it',
  judgemental: 'another judgement or policy is the right one',
  projected: 'best estimate from what a sample showed',
  reclassification: 'amounts are in the wrong place, the result stays',
  forecast: 'what is planned or foreseen; never a misstatement',
};

export const STATE_WORD: Record<ProposedState, string> = {
  proposed: 'proposed',
  approved: 'approved',
  waived: 'left uncorrected',
  retired: 'taken back',
  booked: 'booked',
};

export const stateInk = (state: ProposedState): string =>
  state === 'approved' ? 'font-semibold' : state === 'proposed' ? '' : 'text-soft';
