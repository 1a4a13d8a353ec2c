import type { WhoPostsWhere } from '@/contracts/answers/pictures';
import { countText } from '../../amounts';
import { Failure } from '../../parts/Place';
import { Table, Td, Tr } from '../../parts/Table';
import { useAnswer } from '../../query/hooks';
import { Caption } from './Caption';
import { linesAt } from './list';

/** People by accounts, each pair as large as there are lines, and rare ones marked. */
export function PeopleMap({ scope }: { scope: URLSearchParams }) {
  const { data, error } = useAnswer('GET /who-posts-where', scope);
  if (!data) return <Failure error={error} />;
  const { accounts, people } = data.notDrawn;
  return (
    <>
      <Caption>
        {data.sentence}. A circle is as large as somebody posted lines on an account. Ringed is a pair of one or two
        lines, where {data.settings.expected} and more would be expected of two who are both so busy elsewhere.
        {accounts + people > 0 &&
          ` Not drawn: ${[accounts > 0 ? `${countText(accounts)} accounts` : '', people > 0 ? `${countText(people)} people` : ''].filter(Boolean).join(' and ')} with fewer lines.`}
        {data.rare.length === 0 && ' No pair is rare.'}
      </Caption>
      {data.rare.length > 0 && <Rare data={data} />}
      <Matrix data={data} />
    </>
  );
}

const pairOf = (address: string, { account, person }: { account: string; person: string | null }): string =>
  linesAt(address, { accounts: account, postedBy: person ?? '~none' });

function Rare({ data }: { data: WhoPostsWhere }) {
  return (
    <section aria-label="Rare pairs" className="mb-6 max-w-[760px]">
      <h2 className="mb-2 font-book text-[16px] font-semibold">Rare pairs</h2>
      <Table
        label="Rare pairs of a person and an account"
        columns={[
          { label: 'Person', width: 'w-[150px]' },
          { label: 'Account' },
          { label: 'Lines', right: true, width: 'w-[80px]' },
          { label: 'Expected', right: true, width: 'w-[90px]' },
        ]}
      >
        {data.rare.map((pair) => (
          <Tr key={`${pair.account} ${pair.person}`}>
            <Td>{pair.person}</Td>
            <Td>
              <a href={pairOf(data.address, pair)} className="hover:underline">
                <span className="tabular-nums">{pair.account}</span> {pair.name}
              </a>
            </Td>
            <Td right>{countText(pair.lines)}</Td>
            <Td right>{countText(Math.round(pair.expected))}</Td>
          </Tr>
        ))}
      </Table>
    </section>
  );
}

const SIZE = 26;

function Matrix({ data }: { data: WhoPostsWhere }) {
  const held = new Map(data.pairs.map((p) => [`${p.account}\n${p.person ?? ''}`, p]));
  const most = Math.max(1, ...data.pairs.map((p) => Math.log2(1 + p.lines)));
  return (
    <div className="overflow-x-auto">
      <table className="border border-rule bg-sheet text-[12.5px]">
        <caption className="sr-only">Lines by account and person</caption>
        <thead>
          <tr className="border-b-[1.5px] border-ink text-soft">
            <th scope="col" className="sticky left-0 bg-sheet px-2 py-1 text-left align-bottom font-normal">
              Account
            </th>
            {data.people.map((person) => (
              <th key={person ?? ''} scope="col" className="h-[92px] w-[38px] align-bottom font-normal">
                <span className="inline-block max-h-[86px] truncate [writing-mode:vertical-rl] rotate-180">
                  {person ?? 'not told'}
                </span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {data.accounts.map(({ code, name }) => (
            <tr key={code} className="border-b border-hair">
              <th scope="row" className="sticky left-0 bg-sheet px-2 py-0 text-left font-normal">
                <span className="block w-[238px] truncate" title={`${code} ${name}`}>
                  <span className="tabular-nums">{code}</span> {name}
                </span>
              </th>
              {data.people.map((person) => {
                const pair = held.get(`${code}\n${person ?? ''}`);
                if (!pair) return <td key={person ?? ''} />;
                const radius = Math.max(1.5, (Math.log2(1 + pair.lines) / most) * (SIZE / 2 - 2));
                const said = `${person ?? 'nobody told'} on ${code} ${name}: ${countText(pair.lines)} lines, ${countText(Math.round(pair.expected))} expected`;
                return (
                  <td key={person ?? ''} className="p-0 text-center">
                    {/* biome-ignore lint/a11y/useAnchorContent: its label says what it is */}
                    <a
                      href={pairOf(data.address, pair)}
                      title={said}
                      aria-label={`${said}${pair.rare ? '; a rare pair' : ''}; to them`}
                      className="inline-block align-middle hover:outline-2 hover:outline-ink"
                    >
                      <svg width={SIZE} height={SIZE} viewBox={`0 0 ${SIZE} ${SIZE}`} aria-hidden="true">
                        <circle
                          cx={SIZE / 2}
                          cy={SIZE / 2}
                          r={radius}
                          className={pair.rare ? 'fill-thread' : 'fill-ink/45'}
                        />
                        {pair.rare && (
                          <circle
                            cx={SIZE / 2}
                            cy={SIZE / 2}
                            r={SIZE / 2 - 3}
                            className="fill-none stroke-thread"
                            strokeWidth={1.5}
                          />
                        )}
                      </svg>
                    </a>
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
