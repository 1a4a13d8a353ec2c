'use client';

import Link from 'next/link';
import { useEffect } from 'react';
import { type Origin, readScreen } from '../address/address';
import { useEntities, useKeptScopes } from '../query/hooks';
import { useMe } from '../shell/Providers';
import { DocumentScreen } from './DocumentScreen';
import { EntryScreen } from './EntryScreen';
import { LedgerScreen } from './LedgerScreen';
import { OrdersScreen } from './OrdersScreen';
import { SplitScreen } from './SplitScreen';
import { StatementScreen } from './StatementScreen';
import { TrialBalanceScreen } from './TrialBalanceScreen';
import { useScreen } from './useScreen';

/** A place with its thread: the sheet of the last step, or the first sheet where no step was taken. */
export function ThreadScreen({ origin }: { origin: Origin }) {
  const { screen, memoryKey, go, replace } = useScreen(origin);
  const { data } = useEntities();
  const unnamed = !screen.scope.has('entity');
  const first = data?.entities[0]?.code;
  const kept = useKeptScopes();
  const opens = kept.data?.rows.find((r) => r.opens && r.place === origin);
  const bare = screen.scope.size === 0 && screen.steps.length === 0;
  // A screen always names whose books it reads: as its person has kept it, else the first company until another is chosen.
  useEffect(() => {
    if (!unnamed || !first || kept.isPending) return;
    if (bare && opens) return replace({ ...readScreen(origin, new URLSearchParams(opens.query)), steps: [] });
    const scope = new URLSearchParams(screen.scope);
    scope.append('entity', first);
    replace({ ...screen, scope });
  });
  if (data && data.entities.length === 0) return <NoEntities />;
  if (unnamed) return <p className="p-8 text-soft">Opening the books …</p>;
  const step = screen.steps[screen.steps.length - 1];
  const props = { screen, memoryKey, go, replace };
  // A sheet of its own for each address, so that nothing of another sheet's focus or scroll is carried along.
  const key = `${origin}/${screen.steps.length}/${step?.view ?? ''}/${step?.label ?? ''}/${step?.entry ?? ''}`;
  if (!step) {
    if (origin === 'lines') return <LedgerScreen key={key} {...props} />;
    if (origin === 'statements') return <StatementScreen key={`${key}${screen.options.statement ?? ''}`} {...props} />;
    return <TrialBalanceScreen key={key} {...props} />;
  }
  switch (step.view) {
    case 'split':
      return <SplitScreen key={key} {...props} by={step.by ?? 'account'} />;
    case 'lines':
      return <LedgerScreen key={key} {...props} />;
    case 'entry':
      return <EntryScreen key={key} {...props} id={step.entry ?? ''} />;
    case 'document':
      return <DocumentScreen key={key} {...props} number={step.entry ?? ''} />;
    case 'orders':
      return <OrdersScreen key={key} {...props} />;
    case 'statement':
      return <StatementScreen key={`${key}${step.options?.statement ?? ''}`} {...props} />;
  }
}

function NoEntities() {
  const { role } = useMe();
  return (
    <div className="p-10">
      <h1 className="font-book text-[22px] font-semibold">No books yet</h1>
      {role === 'owner' ? (
        <>
          <p className="mt-2 mb-4 max-w-[60ch] text-soft">
            One file of journal lines makes a ledger: the company, its chart of accounts, its fiscal year and its
            dimensions are proposed from it, and you correct what was guessed wrong.
          </p>
          <Link href="/loads/begin" className="button-main">
            Bring in a ledger
          </Link>
        </>
      ) : (
        <p className="mt-2 max-w-[60ch] text-soft">
          There is no company that you may see. An owner brings in a ledger, or grants you one that is here.
        </p>
      )}
    </div>
  );
}
