'use client';

import type { Grant } from '@/contracts/answers/people';
import type { Role } from '@/contracts/roles';
import { amountText, countText } from '../amounts';
import { Failure } from '../parts/Place';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { ALL } from './grant';

/** What somebody would see with a role and a grant, before it is given. */
export function SeeAs({ role, grant }: { role: Role; grant: Grant }) {
  const look = useChange(() => ask('POST /people/see-as', { body: { role, ...(role === 'owner' ? ALL : grant) } }), []);
  const { data } = look;
  return (
    <div className="w-full">
      <button
        type="button"
        className="link text-[13px]"
        disabled={look.isPending}
        onClick={() => look.mutate(undefined)}
      >
        {look.isPending ? 'Looking …' : 'See what they would see'}
      </button>
      <Failure error={look.error} />
      {data && (
        <section aria-label="What they would see" className="mt-2 border border-hair bg-paper p-3">
          <p className="text-[13px] text-soft">
            {data.whole
              ? 'These books whole, with documents, journals, customers and suppliers.'
              : 'A part of these books: no documents, journals, customers or suppliers, which are of whole books.'}
            {data.hidden.length > 0 && ` Nothing of ${data.hidden.join(' or ')} is seen, not even the name.`}
          </p>
          <div className="mt-2 flex flex-wrap gap-x-8 gap-y-3">
            {data.books.map((b) => (
              <div key={b.entity} className="w-[360px]">
                <h3 className="font-semibold">{b.name}</h3>
                {b.problem ? (
                  <p className="text-warn">{b.problem}</p>
                ) : (
                  <>
                    <p className="text-[12.5px] text-soft">
                      {countText(b.lines)} of {countText(b.of)} lines. {b.sentence}.
                    </p>
                    <table className="mt-1 w-full text-[13px]">
                      <caption className="sr-only">Accounts of {b.name} as they would see them</caption>
                      <tbody>
                        {b.accounts.map((a) => (
                          <tr key={a.code} className="border-b border-hair">
                            <td className="w-[52px] text-soft">{a.code}</td>
                            <td className="truncate">{a.name}</td>
                            <td className="text-right">{amountText(a.closing)}</td>
                          </tr>
                        ))}
                      </tbody>
                    </table>
                    {b.more > 0 && <p className="text-[12.5px] text-soft">and {countText(b.more)} further accounts</p>}
                  </>
                )}
              </div>
            ))}
          </div>
        </section>
      )}
    </div>
  );
}
