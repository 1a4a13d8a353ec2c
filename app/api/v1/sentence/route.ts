import { readSentence } from '@/cases/asking/readSentence';
import { scopeShape } from '@/contracts/scope';
import { answer, query } from '../../answer';

export const GET = answer((asking) => readSentence(asking.ctx, asking.viewer, query(scopeShape, asking)));
