import { notFound } from '@/contracts/problem';
import { recordSchemas } from '@/contracts/records';
import { serve } from '../../../answer';

/** The published schema of our JSON and NDJSON, made from the contract. */
export const GET = serve('GET /schemas/{kind}', async ({ path: { kind } }) => {
  const schemas = recordSchemas();
  const schema = Object.hasOwn(schemas, kind) ? schemas[kind] : undefined;
  if (!schema) throw notFound(`Schema ${kind}`);
  return schema;
});
