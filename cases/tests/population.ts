import { mkdir, readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Figure } from '@/core/figure';
import type { Question } from '@/store/question';
import { type CompanyAsked, Population } from '@/store/tests/population';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';

/** The lines that tests look at, of each company in the currency of its own books. */
export async function populationOf(ctx: Context, asked: readonly ResolvedFigure[]): Promise<Population> {
  const folder = join(ctx.home, 'tests');
  await mkdir(folder, { recursive: true, mode: 0o700 });
  await sweep(folder);
  const companies: CompanyAsked[] = [];
  for (const one of asked) {
    const [entity] = one.entities;
    if (!entity) continue;
    companies.push({
      entity: entity.code,
      own: one.unweighed,
      sinceEver: await withCopies(ctx, one.narrowed({ window: sinceEver(one) })),
    });
  }
  return Population.of(ctx.work, companies, { folder, copies: ctx.columns.folder });
}

/** No run takes so long: what is older was left by one that was ended. */
const LEFT_MS = 3 * 3_600_000;

async function sweep(folder: string): Promise<void> {
  for (const name of await readdir(folder)) {
    const path = join(folder, name);
    const { mtimeMs } = await stat(path).catch(() => ({ mtimeMs: Date.now() }));
    if (Date.now() - mtimeMs > LEFT_MS) await rm(path, { recursive: true, force: true });
  }
}

/** The same question with the copies by columns, where they answer it. */
async function withCopies(ctx: Context, asked: ResolvedFigure): Promise<Question> {
  const columns = await ctx.columns.readyFor(asked.unweighed, asked.known.copies);
  return columns ? { ...asked.unweighed, columns } : asked.unweighed;
}

/** The window of a figure from the first line of its company on. */
function sinceEver({ figure: { window }, entities: [entity], known }: ResolvedFigure): Figure['window'] {
  const extent = known.extents.get(entity?.code ?? '');
  if (!extent) return window;
  if (window.by === 'period') return { ...window, from: Math.min(window.from, extent.firstPeriod) };
  return { ...window, from: window.from < extent.firstDay ? window.from : extent.firstDay };
}
