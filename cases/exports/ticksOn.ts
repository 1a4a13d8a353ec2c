import { lineSubject, subjectText } from '@/contracts/subject';
import { dateText } from '@/core/sentence';
import { listEvidence } from '@/store/evidence';
import type { StoredLine } from '@/store/lines';
import type { Context } from '../asking/context';
import { tickMarks } from '../evidence/ticks';

/** Ticks of the lines that leave, in words: what was done, by whom and when. */
export interface TicksOn {
  of(line: Pick<StoredLine, 'entity' | 'entry' | 'line'>): string;
  /** Marks of the legend, with how many of each have left so far. */
  given: ReadonlyMap<string, { meaning: string; lines: number }>;
}

const EVERY = 1_000_000;

/** The ticks on lines and entries of some companies. Whoever sees a line sees its ticks. */
export async function ticksOn(ctx: Context, entities: readonly string[]): Promise<TicksOn> {
  const [ticks, { marks }] = await Promise.all([
    listEvidence(ctx.work, 'tick', { subjects: null, entities: [...entities], limit: EVERY, after: 0 }),
    tickMarks(ctx),
  ]);
  const meaning = new Map(marks.map((m) => [m.code, m.meaning]));
  const bySubject = new Map<string, { mark: string; says: string }[]>();
  for (const t of ticks) {
    if (!t.subject.startsWith('line:') && !t.subject.startsWith('entry:')) continue;
    const says = `${meaning.get(t.mark) ?? t.mark} (${t.name}, ${dateText(t.created_at.toISOString().slice(0, 10))})`;
    bySubject.set(t.subject, [...(bySubject.get(t.subject) ?? []), { mark: t.mark, says }]);
  }
  const given = new Map(marks.map((m) => [m.code, { meaning: m.meaning, lines: 0 }]));
  return {
    given,
    of(line) {
      const entry = subjectText({ is: 'entry', entity: line.entity, entry: line.entry });
      const found = [...(bySubject.get(lineSubject(line)) ?? []), ...(bySubject.get(entry) ?? [])];
      for (const { mark } of found) {
        const held = given.get(mark);
        if (held) held.lines += 1;
      }
      return found.map((f) => f.says).join('; ');
    },
  };
}

/** The legend as the last sheet of a workbook: what every mark means, and how many lines bear it. */
export const legendOf = (ticks: TicksOn) => ({
  name: 'Legend of ticks',
  rows: (): [string, string][] => [
    ['meaning', 'lines'],
    ...[...ticks.given.values()].map(({ meaning, lines }): [string, string] => [meaning, String(lines)]),
  ],
});
