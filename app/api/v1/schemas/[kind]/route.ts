import { notFound } from '@/contracts/problem';
import { recordSchemas } from '@/contracts/records';
import { answer } from '../../../answer';

/** The published schema of our JSON and NDJSON, made from the contract. */
export const GET = answer(async (_asking, { kind = '' }) => {
  const schema = recordSchemas()[kind];
  if (!schema) throw notFound(`Schema ${kind}`);
  return schema;
});
