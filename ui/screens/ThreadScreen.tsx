'use client';

import Link from 'next/link';
import { type ComponentType, useEffect, useRef, useSyncExternalStore } from 'react';
import { type Origin, readScreen } from '../address/address';
import { isRemembered } from '../address/memory';
import { later } from '../parts/later';
import { useEntities, useKeptScopes } from '../query/hooks';
import { useMe } from '../shell/me';
import { opened } from './firstQuestions';
import type { ScreenProps } from './SheetFrame';
import { useScreen } from './useScreen';

const OPENING = (
  <p aria-busy="true" className="p-8 text-soft">
    Opening …
  </p>
);
const DocumentScreen = later(() => import('./DocumentScreen').then((m) => m.DocumentScreen), OPENING);
const EntryScreen = later(() => import('./EntryScreen').then((m) => m.EntryScreen), OPENING);
const LedgerScreen = later(() => import('./LedgerScreen').then((m) => m.LedgerScreen), OPENING);
const OrdersScreen = later(() => import('./OrdersScreen').then((m) => m.OrdersScreen), OPENING);
const SplitScreen = later(() => import('./SplitScreen').then((m) => m.SplitScreen), OPENING);
const StatementScreen = later(() => import('./StatementScreen').then((m) => m.StatementScreen), OPENING);

/**
 * A place with its thread: the sheet of the last step, or the first sheet where no step was taken.
 * @param First draws that one; it comes with the page, the others when they are wanted
 */
export function ThreadScreen({ origin, First }: { origin: Origin; First: ComponentType<ScreenProps> }) {
  const { screen, memoryKey, go, replace } = useScreen(origin);
  const { data } = useEntities();
  const first = data?.entities[0]?.code;
  const kept = useKeptScopes();
  const opens = kept.data?.rows.find((r) => r.opens && r.place === origin);
  // A screen always names whose books it reads: as its person has kept it, else the first company until another is chosen.
  useEffect(() => {
    if (kept.isPending) return;
    const to = opened(screen, first, opens && readScreen(origin, new URLSearchParams(opens.query)));
    if (to) replace(to);
  });
  const again = useReturned(memoryKey);
  if (data && data.entities.length === 0) return <NoEntities />;
  if (!screen.scope.has('entity')) return <p className="p-8 text-soft">Opening the books …</p>;
  const step = screen.steps[screen.steps.length - 1];
  const props = { screen, memoryKey, go, replace };
  // A sheet of its own for each address, so that nothing of another sheet's focus or scroll is carried along.
  const key = `${again}${origin}/${screen.steps.length}/${step?.view ?? ''}/${step?.label ?? ''}/${step?.entry ?? ''}`;
  if (!step) return <First key={`${key}${screen.options.statement ?? ''}`} {...props} />;
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

/**
 * A sheet that was drawn on the server knows nothing of how it was left: where it was, it is put in place of that once the
 * page has come alive.
 * @returns a word that changes then
 */
function useReturned(memoryKey: string): string {
  const alive = useSyncExternalStore(
    () => () => {},
    () => true,
    () => false,
  );
  const wasDrawn = useRef(!alive);
  const returned = useRef<boolean | null>(null);
  if (alive && returned.current === null) returned.current = wasDrawn.current && isRemembered(memoryKey);
  return returned.current ? 'as it was left/' : '';
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
