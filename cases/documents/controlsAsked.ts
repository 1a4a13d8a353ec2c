import { wrong } from '@/contracts/problem';
import type { ScopeParams } from '@/contracts/scope';
import { yearOf } from '@/core/calendar';
import { oneValue } from '@/core/values';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { resolveFigure } from '../asking/resolveFigure';
import { requireWhole, type Viewer } from '../asking/viewer';

/** The control accounts of one company that a scope asks for, at its last day, and with whom. */
export async function controlsAsked(ctx: Context, viewer: Viewer, scope: ScopeParams) {
  requireWhole(viewer, 'Documents are');
  const asked = await resolveFigure(ctx, viewer, scope);
  const [entity] = asked.entities;
  const [mine] = asked.books;
  if (!entity || !mine || asked.entities.length !== 1) throw wrong('entity', 'documents are of one company; name one');
  const { where, status } = asked.figure;
  const other = where.find((c) => c.on !== 'counterparty' || c.not || c.any.some((v) => v === null));
  if (other)
    throw wrong(
      other.on === 'dim' ? `dim.${other.dim}` : other.on,
      'documents are narrowed by account and counterparty only; remove this clause',
    );
  if (status !== 'posted') throw wrong('status', 'documents are held against posted lines; ask for posted');
  const at = lastDay(asked);
  const controls = asked.known.controls.get(entity.id) ?? [];
  const accounts = controls.filter((id) => mine.own === null || mine.own.includes(id));
  const [party] = where;
  const counterparties =
    party?.on === 'counterparty' ? party.any.flatMap((v) => (v === null ? [] : [oneValue(v) ?? v])) : null;
  return { asked, entity, controls, accounts, at, counterparties };
}

/** The last day of the window: documents are open or not at a day. */
function lastDay({ figure, books }: ResolvedFigure): string {
  const { window } = figure;
  if (window.by === 'date') return window.to;
  const period = books[0]?.calendar.periodsOf(yearOf(window.to)).find((p) => p.ordinal === window.to);
  if (!period) throw wrong('to', 'the calendar has no such period');
  return period.to;
}
