import { ATTRIBUTES, type Split } from '@/core/figure';
import { wrong } from './problem';

const PLAIN = ['account', 'type', 'entity', 'period', 'month', 'week', 'day', 'kind', 'size', ...ATTRIBUTES] as const;

/** Reads `by=account`, `by=account/2` for headings of the second level, `by=dim:vessel`, `by=dim:vessel/MAREN`. @throws ProblemError */
export function readSplit(text: string, path = 'by'): Split {
  const plain = PLAIN.find((p) => p === text);
  if (plain) return { by: plain } as Split;
  const heading = /^account\/([1-9])$/.exec(text);
  if (heading) return { by: 'heading', level: Number(heading[1]) };
  const level = /^dim:([^/@]+)@([1-9])$/.exec(text);
  if (level) return { by: 'dim', dim: level[1] as string, under: null, level: Number(level[2]) };
  const dim = /^dim:([^/]+)(?:\/(.+))?$/.exec(text);
  if (dim) return { by: 'dim', dim: dim[1] as string, under: dim[2] ?? null };
  throw wrong(
    path,
    `“${text}” is nothing to split by; it is one of ${PLAIN.join(', ')}, account/<level>, dim:<code>, dim:<code>@<level>, dim:<code>/<member>`,
  );
}

export function splitText(split: Split): string {
  if (split.by === 'heading') return `account/${split.level}`;
  if (split.by === 'dim' && split.level !== undefined) return `dim:${split.dim}@${split.level}`;
  return split.by === 'dim' ? `dim:${split.dim}${split.under === null ? '' : `/${split.under}`}` : split.by;
}
