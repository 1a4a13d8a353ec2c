import type { ScopeParams } from '@/contracts/scope';
import type { Context } from './context';
import { resolveFigure } from './resolveFigure';
import type { Viewer } from './viewer';

/** A question in words, without its answer: what a screen says where the answer itself was refused. */
export async function readSentence(ctx: Context, viewer: Viewer, params: ScopeParams) {
  const { sentence, parts, address, currency } = await resolveFigure(ctx, viewer, params, { translates: true });
  return { sentence, parts, address, currency };
}
