'use client';

import Link from 'next/link';
import { usePathname, useSearchParams } from 'next/navigation';
import { placeWith } from '../address/places';
import { useHelp } from '../help/Help';
import { ask } from '../query/client';
import { useKeptScopes } from '../query/hooks';
import { keptPath } from '../scope/KeptScopes';

const PLACES = [
  { href: '/find', name: 'Find' },
  { href: '/desk', name: 'Desk' },
  { href: '/trial-balance', name: 'Trial balance' },
  { href: '/statements', name: 'Statements' },
  { href: '/accounts', name: 'Accounts' },
  { href: '/lines', name: 'Lines' },
  { href: '/journals', name: 'Journals' },
  { href: '/documents', name: 'Documents' },
  { href: '/threads', name: 'Threads' },
  { href: '/tests', name: 'Tests' },
  { href: '/findings', name: 'Findings' },
  { href: '/proposals', name: 'Proposals' },
  { href: '/reports', name: 'Reports' },
  { href: '/loads', name: 'Loads' },
  { href: '/settings', name: 'Settings' },
] as const;

/** The places, at the left edge of every screen. */
export function Rail({ name, role }: { name: string; role: string }) {
  const help = useHelp();
  const path = usePathname();
  const params = useSearchParams();
  const { data } = useKeptScopes();
  const atHand = data?.rows.filter((r) => r.atHand) ?? [];
  const signOut = async (): Promise<void> => {
    await ask('DELETE /session');
    window.location.assign('/sign-in');
  };
  return (
    <nav
      aria-label="Places"
      className="flex w-[124px] shrink-0 flex-col border-r border-rule pt-4 pb-3 pl-5 print:hidden"
    >
      <p className="mb-5 font-book text-[18px] leading-[20px] font-semibold">
        Just
        <br />
        Thread<span className="text-thread">.</span>
      </p>
      <ul>
        {PLACES.map(({ href, name: place }) => {
          // What tests found is a sheet of the place that they are run in.
          const here =
            path === href ||
            path.startsWith(`${href}/`) ||
            (href === '/tests' && path === '/hits') ||
            (href === '/reports' && path.startsWith('/frozen/'));
          return (
            <li key={href}>
              <Link
                href={placeWith(href, path, params)}
                aria-current={here ? 'page' : undefined}
                className={`block border-r-[3px] py-[5px] ${here ? 'border-ink font-semibold text-ink' : 'border-transparent text-soft hover:text-ink'}`}
              >
                {place}
              </Link>
            </li>
          );
        })}
      </ul>
      {atHand.length > 0 && (
        <section aria-labelledby="at-hand" className="mt-5 min-h-0 overflow-y-auto pr-2">
          <h2 id="at-hand" className="text-[12px] text-faint">
            At hand
          </h2>
          <ul>
            {atHand.map((row) => (
              <li key={row.id}>
                <Link
                  href={keptPath(row)}
                  title={row.name}
                  className="line-clamp-2 py-[3px] text-[13px] leading-[17px] text-soft hover:text-ink"
                >
                  {row.name}
                </Link>
              </li>
            ))}
          </ul>
        </section>
      )}
      <div className="mt-auto pr-3 text-[12.5px] leading-4 text-faint">
        <button
          type="button"
          onClick={help}
          title="What can be done here (F1)"
          className="mb-2 cursor-pointer underline decoration-rule underline-offset-2 hover:text-ink"
        >
          Help
        </button>
        <p>
          <Link href="/settings/you" className="hover:text-ink">
            {name}
          </Link>
        </p>
        <p>{role}</p>
        <button
          type="button"
          onClick={signOut}
          className="mt-1 cursor-pointer underline decoration-rule underline-offset-2 hover:text-ink"
        >
          Sign out
        </button>
      </div>
    </nav>
  );
}
