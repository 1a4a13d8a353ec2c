import { showLoad } from '@/cases/loads';
import { notFound } from '@/contracts/problem';
import { answer } from '../../../answer';

export const GET = answer(({ ctx, viewer }, { id = '' }) => {
  if (!/^\d{1,9}$/.test(id)) throw notFound(`Load ${id}`);
  return showLoad(ctx, viewer, Number(id));
});
