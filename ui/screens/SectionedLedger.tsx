'use client';

import { useMemo } from 'react';
import { subjectText } from '@/contracts/subject';
import { ledgerScope } from '../address/measures';
import { splitName } from '../address/splitNames';
import { countText } from '../amounts';
import { useEntities } from '../query/hooks';
import { amountCell } from '../sheet/cell';
import type { SheetModel, SheetRow } from '../sheet/model';
import { proofOf } from '../sheet/proof';
import { wholeRow } from '../sheet/wholeRow';
import { ledgerColumns } from './ledgerColumns';
import { lineRow, openingRow, rolledRow } from './ledgerRows';
import { RunsChoice } from './RunsChoice';
import { type ScreenProps, SheetFrame } from './SheetFrame';
import { placeOf, type Section, useSections } from './useSections';

/** Lines in groups, by account or anything else: each with its opening balance, its lines with their running balance, its closing balance. */
export function SectionedLedger({ by, ...props }: ScreenProps & { by: string }) {
  const { screen } = props;
  const scope = useMemo(() => ledgerScope(screen), [screen]);
  const { data: entities } = useEntities();
  const { head, sections, lineAt, error, loading, stale, onRange } = useSections(scope, by);
  const named = splitName(by, entities?.dimensions);
  const columns = useMemo(
    () => ledgerColumns({ oneAccount: by === 'account', taxed: scope.has('taxCode') }, entities?.dimensions ?? []),
    [entities, by, scope],
  );

  const model = useMemo((): SheetModel => {
    const last = sections[sections.length - 1];
    const rowAt = (index: number): SheetRow | undefined => {
      const place = placeOf(sections, index);
      if (!place || !head) return undefined;
      const { section, at } = place;
      if (at === 0) return headingOf(section, head.address);
      if (at <= section.count) {
        const line = lineAt(section, at - 1);
        return line && lineRow(line, head);
      }
      if (section.rolls && at === section.count + 1)
        return { ...rolledRow(section.roll, section.closing), key: `${section.member}~roll` };
      return closingOf(section);
    };
    const total = head && {
      label: `${countText(sections.length)} ${sections.length === 1 ? 'group' : 'groups'}, ${countText(head.total.count)} lines, in ${head.currency}`,
      debit: amountCell(head.total.debit),
      credit: amountCell(head.total.credit),
      balance: amountCell(head.total.closing),
    };
    return {
      label: `Lines by ${named.toLowerCase()}`,
      columns,
      count: last ? last.start + last.rows : 0,
      rowAt,
      loaded: [],
      indexOf: (key) => sections.find((s) => key === s.member || key.startsWith(`${s.member}~`))?.start ?? -1,
      total,
      whole: head && total && wholeRow(total, head.address, { view: 'split', by: 'account' }),
      parts: head?.parts ?? [],
      path: head && `/lines?${scope}`,
      load: head?.load,
      empty: head?.empty,
      tie: proofOf(head?.tie),
      stale,
      loading,
      error,
    };
  }, [sections, head, lineAt, columns, named, stale, loading, error, scope]);

  return <SheetFrame {...props} sheet="lines" model={model} onRange={onRange} tools={<RunsChoice {...props} />} />;
}

const title = ({ member, name }: Section): string =>
  member === name || member.startsWith('~') ? name : `${member} ${name}`;

const headingOf = (section: Section, address: string): SheetRow => ({
  ...openingRow(section.opening, address),
  key: section.member,
  label: title(section),
  look: 'subtotal',
  opens: true,
  cells: {
    date: section.member === section.name || section.member.startsWith('~') ? '' : section.member,
    description: `${section.name}, opening`,
    balance: amountCell(section.opening),
  },
  count: section.count,
  subject: subjectText({ is: 'figure', address: section.address }),
  put: section.put,
  step: (column) => ({ view: 'lines', label: title(section), row: section.member, column, put: section.put }),
});

const closingOf = (section: Section): SheetRow => ({
  key: `${section.member}~closing`,
  label: `${title(section)}, closing`,
  look: 'quiet',
  cells: {
    description: `${section.name}, closing`,
    debit: amountCell(section.debit),
    credit: amountCell(section.credit),
    balance: amountCell(section.closing),
  },
  subject: null,
  put: null,
  step: () => null,
  say: () => `${countText(section.count)} ${section.count === 1 ? 'line' : 'lines'} of ${title(section)}.`,
});
