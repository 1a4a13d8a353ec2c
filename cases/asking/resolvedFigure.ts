import { wrong } from '@/contracts/problem';
import { paramsOf } from '@/contracts/scope';
import { type Calendar, CalendarError, calendar, type Ordinal, yearOf } from '@/core/calendar';
import type { Figure, Split } from '@/core/figure';
import { exponentOf } from '@/core/money';
import { parseSelection, selectionText } from '@/core/selection';
import { type SentencePart, sentenceOf } from '@/core/sentence';
import type { CatalogueEntity } from '@/store/catalogue';
import type { Db } from '@/store/db';
import { type Question, questionOf } from '@/store/question';
import { differenceAccount } from '../balances/addedAccounts';
import type { Context, Known } from './context';
import { asSeenBy, requireWhole, type Viewer } from './viewer';
import { readerOf } from './weigh';

/**
 * A figure that is ready to be asked: everything named is there, its window has two ends, and its viewer may see all of
 * it. There is no other way to make one than through the viewer's grant: what is made of it by another window, fewer
 * accounts or other clauses passes the grant again.
 */
export class ResolvedFigure {
  readonly entities: CatalogueEntity[];
  /**
   * The question without having been weighed: for what finds its lines by key, and for work that has all the time it
   * needs. Whoever answers a person asks through `ask`.
   */
  readonly unweighed: Question;
  /** Some of the books are in another currency than the answer. */
  readonly translates: boolean;
  /** Decimals of the currency. */
  readonly digits: number;

  private constructor(
    readonly viewer: Viewer,
    readonly figure: Figure,
    readonly known: Known,
    readonly currency: string,
    /** Dealings between the companies of the question are taken out. */
    readonly eliminates: boolean,
    /** Who asks waits for a heavy question. */
    private readonly heavy: 'run' | undefined,
  ) {
    const { catalogue, newest } = known;
    this.entities = figure.entities.map((code) => catalogue.entities.get(code) as CatalogueEntity);
    this.translates = this.entities.some((e) => e.currency !== currency);
    this.digits = exponentOf(currency);
    try {
      this.unweighed = questionOf(figure, catalogue, figure.load ?? newest);
    } catch (error) {
      if (error instanceof CalendarError) throw wrong('from', error.message);
      throw error;
    }
  }

  /** The figure as its viewer may see it (method.md §5, law 5). @throws ProblemError for what is outside the grant */
  static seenBy(
    viewer: Viewer,
    figure: Figure,
    known: Known,
    currency: string,
    { eliminates = false, heavy }: { eliminates?: boolean; heavy?: 'run' | undefined } = {},
  ): ResolvedFigure {
    const entities = figure.entities.flatMap((code) => known.catalogue.entities.get(code) ?? []);
    const names = { chart: [...everyAccount(entities), differenceAccount], trees: known.catalogue.trees };
    return new ResolvedFigure(viewer, asSeenBy(figure, viewer, names), known, currency, eliminates, heavy);
  }

  /**
   * All lines of the books of one company. Whoever asks with it holds every line that comes back against the grant,
   * one by one (`seesLine`): an entry is shown with the number of its lines that lie outside.
   */
  static ofWholeBooks(viewer: Viewer, entity: CatalogueEntity, known: Known, load: number | null): ResolvedFigure {
    const latest = known.extents.get(entity.code)?.lastPosted ?? 0;
    const figure: Figure = {
      entities: [entity.code],
      accounts: null,
      window: { by: 'period', from: latest, to: latest },
      adjustments: 'with',
      status: 'all',
      where: [],
      load,
    };
    return new ResolvedFigure(viewer, figure, known, entity.currency, false, undefined);
  }

  /** The same question of another figure, by the same viewer and within the same grant. @throws ProblemError */
  narrowed(change: Partial<Figure>, currency = this.currency): ResolvedFigure {
    const { viewer, known, eliminates, heavy } = this;
    return ResolvedFigure.seenBy(viewer, { ...this.figure, ...change }, known, currency, { eliminates, heavy });
  }

  /** The same with all accounts, for what only whole books tell. @throws ProblemError where the viewer sees a part */
  withAllAccounts(what: string): ResolvedFigure {
    requireWhole(this.viewer, what);
    return this.narrowed({ accounts: null });
  }

  /** The same with the dealings between its companies, or without them. */
  eliminating(eliminates: boolean): ResolvedFigure {
    return new ResolvedFigure(this.viewer, this.figure, this.known, this.currency, eliminates, this.heavy);
  }

  /**
   * The question, weighed, with the connection to ask it on: the one way in which its sums and lines are asked for.
   * @param splits what it is broken down by; by entry where its lines are read in another order than the ledger's
   * @throws ProblemError where it is heavy, naming what would help
   */
  async ask(ctx: Context, splits: readonly Split[]): Promise<{ db: Db; question: Question }> {
    const columns = await ctx.columns.readyFor(this.unweighed, this.known.copies);
    if (!columns) return { db: await readerOf(ctx, this, splits, this.heavy), question: this.unweighed };
    // By columns is quick however many lines there are; whoever waits for long work waits here too.
    return { db: this.heavy === 'run' ? ctx.patient : ctx.read, question: { ...this.unweighed, columns } };
  }

  /** The newest load that counts. */
  get asOf(): number {
    return this.unweighed.asOf;
  }

  /** The books of each company as far as the question goes. */
  get books(): Question['entities'] {
    return this.unweighed.entities;
  }

  /**
   * The question without its clauses, for which sums know how many lines there are. That number is for us alone, not to
   * be told, unless `weighsOwnLines`: it may count lines that lie outside the grant.
   */
  questionToWeigh(): Question {
    const bare = { ...this.figure, where: [] };
    return new ResolvedFigure(this.viewer, bare, this.known, this.currency, false, this.heavy).unweighed;
  }

  /** Whether all lines that `questionToWeigh` counts are the viewer's to see. */
  get weighsOwnLines(): boolean {
    return Object.keys(this.viewer.members).length === 0;
  }

  /** The calendar of the first company, by which a group is asked. */
  get calendar(): Calendar {
    return calendar((this.entities[0] as CatalogueEntity).calendar);
  }

  get parts(): SentencePart[] {
    const { catalogue } = this.known;
    const parts = sentenceOf(this.figure, {
      entity: (code) => catalogue.entities.get(code)?.name ?? code,
      calendar: speakingCalendar(this.figure, this.entities),
      dimension: (code) => catalogue.dimensions.get(code)?.name ?? code,
      member: (dim, code) => catalogue.trees.get(dim)?.get(code)?.name ?? code,
      account: (code) => this.entities.map((e) => e.accounts.get(code)?.name).find(Boolean) ?? null,
      currency: this.currency,
      digits: this.digits,
    });
    return parts.map((part) => withGrant(part, this.figure, this.viewer));
  }

  get sentence(): string {
    return this.parts.map((p) => p.text).join('');
  }

  /** The figure's own parameters in one fixed order, with the currency where it is not that of the books. */
  get address(): string {
    return this.addressOf(this.figure);
  }

  /** What another figure of the same question is asked by. */
  addressOf(figure: Figure): string {
    const params = paramsOf(figure, this.digits);
    const translates = figure.entities.some(
      (code) => this.known.catalogue.entities.get(code)?.currency !== this.currency,
    );
    if (translates) params.append('in', this.currency);
    return params.toString();
  }
}

/** For what is told of the books as they are kept. @throws ProblemError on the cash basis */
export function asBooked({ figure }: ResolvedFigure, what: string): void {
  if (figure.accounting) throw wrong('accounting', `${what} is of the books as booked; ask on the accrual basis`);
}

export const hasPeriod = (e: CatalogueEntity, at: Ordinal): boolean =>
  calendar(e.calendar)
    .periodsOf(yearOf(at))
    .some((p) => p.ordinal === at);

/** The calendar in which a window is said: the first that has both its ends. */
function speakingCalendar({ window }: Figure, entities: CatalogueEntity[]): Calendar {
  const fitting = entities.find((e) => window.by === 'date' || (hasPeriod(e, window.from) && hasPeriod(e, window.to)));
  return calendar((fitting ?? (entities[0] as CatalogueEntity)).calendar);
}

/** The accounts of all the entities, by code; the first entity's attributes hold. */
export function everyAccount(entities: CatalogueEntity[]): CatalogueEntity['chart'] {
  if (entities.length === 1) return entities[0]?.chart ?? [];
  const everyone = new Map<string, CatalogueEntity['chart'][number]>();
  for (const e of entities) for (const a of e.chart) if (!everyone.has(a.code)) everyone.set(a.code, a);
  return [...everyone.values()];
}

/** A clause that only says what the viewer is granted cannot be taken away, and says so. */
function withGrant(part: SentencePart, figure: Figure, viewer: Viewer): SentencePart {
  const [, dim] = /^dim\.(.+)$/.exec(part.control ?? '') ?? [];
  const codes = dim === undefined ? undefined : viewer.members[dim];
  const clause = figure.where.find((c) => c.on === 'dim' && c.dim === dim && !c.not);
  const whole =
    codes && clause?.on === 'dim' && clause.any.every((pick) => pick.is === 'tree' && codes.includes(pick.code));
  const accounts =
    part.control === 'accounts' &&
    viewer.accounts !== null &&
    figure.accounts &&
    selectionText(figure.accounts) === selectionText(parseSelection(viewer.accounts));
  return (whole && clause.any.length === codes.length) || accounts
    ? { ...part, removable: false, granted: true }
    : part;
}
