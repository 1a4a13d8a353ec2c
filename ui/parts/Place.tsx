import Link from 'next/link';
import type { ReactNode } from 'react';

export interface Tab {
  href: string;
  name: string;
}

export const LOAD_TABS: readonly Tab[] = [
  { href: '/loads', name: 'Deliveries' },
  { href: '/loads/begin', name: 'Begin a ledger' },
  { href: '/loads/compare', name: 'Compare two' },
  { href: '/loads/sources', name: 'Sources' },
  { href: '/loads/work', name: 'Work under way' },
];

export const ACCOUNT_TABS: readonly Tab[] = [
  { href: '/accounts', name: 'Chart' },
  { href: '/accounts/dimensions', name: 'Dimensions' },
  { href: '/accounts/parties', name: 'Customers and suppliers' },
  { href: '/accounts/holdings', name: 'Bank and cash' },
  { href: '/accounts/calendars', name: 'Calendars' },
];

export const DOCUMENT_TABS: readonly Tab[] = [
  { href: '/documents', name: 'Open and settled' },
  { href: '/documents/all', name: 'Every document' },
];

export const JOURNAL_TABS: readonly Tab[] = [
  { href: '/journals', name: 'Books' },
  { href: '/journals/latest', name: 'Entered lately' },
];

export const STATEMENT_TABS: readonly Tab[] = [
  { href: '/statements', name: 'Statements' },
  { href: '/statements/budgets', name: 'Budgets' },
];

export const THREAD_TABS: readonly Tab[] = [
  { href: '/threads', name: 'Threads' },
  { href: '/threads/points', name: 'Review points' },
  { href: '/threads/samples', name: 'Samples' },
  { href: '/threads/expectations', name: 'Expectations' },
  { href: '/threads/done', name: 'What is done' },
];

export const PROPOSAL_TABS: readonly Tab[] = [
  { href: '/proposals', name: 'Entries' },
  { href: '/proposals/new', name: 'Propose one' },
  { href: '/proposals/table', name: 'From a table' },
  { href: '/proposals/misstatements', name: 'Misstatements' },
  { href: '/proposals/materiality', name: 'Materiality' },
  { href: '/proposals/sets', name: 'Sets and templates' },
];

export const REPORT_TABS: readonly Tab[] = [
  { href: '/reports', name: 'Kept' },
  { href: '/reports/overviews', name: 'Overviews' },
  { href: '/reports/packs', name: 'Packs' },
  { href: '/reports/schedules', name: 'Made by themselves' },
  { href: '/reports/files', name: 'Files made for you' },
  { href: '/reports/frozen', name: 'Frozen copies' },
  { href: '/reports/embeds', name: 'On other pages' },
  { href: '/reports/audit', name: 'Audit files' },
];

export const TEST_TABS: readonly Tab[] = [
  { href: '/tests', name: 'Runs' },
  { href: '/tests/look', name: 'First look' },
  { href: '/tests/pictures', name: 'Pictures' },
  { href: '/tests/every', name: 'Every test' },
  { href: '/tests/ignored', name: 'Ignored' },
];

export const SETTINGS_TABS: readonly Tab[] = [
  { href: '/settings', name: 'People' },
  { href: '/settings/you', name: 'You' },
  { href: '/settings/marks', name: 'What stands out' },
  { href: '/settings/ticks', name: 'Tick marks' },
  { href: '/settings/sources', name: 'Source ledgers' },
  { href: '/settings/paper', name: 'On paper' },
  { href: '/settings/record', name: 'Record' },
];

/** A place that is no sheet: its title, what else is in it, and the page itself. */
export function Place({
  title,
  tabs,
  here,
  aside,
  children,
}: {
  title: string;
  tabs: readonly Tab[];
  here: string;
  /** What can be done with all of it, at the right of its head. */
  aside?: ReactNode;
  children: ReactNode;
}) {
  return (
    <div className="min-h-0 flex-1 overflow-auto px-[26px] pt-4 pb-8 print:overflow-visible">
      <div className="mb-4 flex items-baseline gap-6 border-b border-rule pb-2">
        <h1 className="font-book text-[22px] leading-[28px] font-semibold">{title}</h1>
        <nav aria-label={title} className="flex gap-5 print:hidden">
          {tabs.map((tab) => (
            <Link
              key={tab.href}
              href={tab.href}
              aria-current={tab.href === here ? 'page' : undefined}
              className={
                tab.href === here
                  ? 'font-semibold text-ink underline decoration-[1.5px] underline-offset-[7px]'
                  : 'text-soft hover:text-ink'
              }
            >
              {tab.name}
            </Link>
          ))}
        </nav>
        {aside && <span className="ml-auto">{aside}</span>}
      </div>
      {children}
    </div>
  );
}

/** A field with its label above. */
export const Labelled = ({ label, children, wide = false }: { label: string; children: ReactNode; wide?: boolean }) => (
  // biome-ignore lint/a11y/noLabelWithoutControl: the control is among the children
  <label className={wide ? 'block w-full' : 'block'}>
    <span className="mb-1 block text-[12.5px] text-soft">{label}</span>
    {children}
  </label>
);

export const Failure = ({ error }: { error: Error | null | undefined }) =>
  error ? (
    <p role="alert" className="w-full text-warn">
      {error.message}
    </p>
  ) : null;
