import type { AccountMonths } from '@/contracts/answers/pictures';
import { amountText, countText } from '../../amounts';
import { Failure } from '../../parts/Place';
import { useAnswer } from '../../query/hooks';
import { Caption } from './Caption';
import { linesAt } from './list';

type Month = AccountMonths['accounts'][number]['months'][number];

/** Accounts by month, each as far as it lies from the account's own history; it is its own table. */
export function MonthsMap({ scope }: { scope: URLSearchParams }) {
  const { data, error } = useAnswer('GET /account-months', scope);
  if (!data) return <Failure error={error} />;
  return (
    <>
      <Caption>
        {data.sentence}. A month is held against the median of up to {data.history} months before it: it is darker the
        further it lies from it, and says by how many standard deviations where that is more than {data.limit}: more
        than usual with a bar on top, less with one beneath.
        {data.notDrawn > 0 && ` ${countText(data.notDrawn)} calmer accounts are not drawn.`}
        {data.tooShort > 0 && ` ${countText(data.tooShort)} accounts have too short a history.`}{' '}
        {data.tie.ok
          ? '✓ The accounts add up to the trial balance.'
          : '✗ The accounts do not add up to the trial balance.'}
      </Caption>
      {data.accounts.length === 0 ? (
        <p>No account has a history that a month could be held against; six months before it are the least.</p>
      ) : (
        <Months data={data} />
      )}
    </>
  );
}

function Months({ data }: { data: AccountMonths }) {
  return (
    <div className="overflow-x-auto">
      <table className="border border-rule bg-sheet text-[12.5px]">
        <caption className="sr-only">Months of accounts, by how far they lie from their history</caption>
        <thead>
          <tr className="border-b-[1.5px] border-ink text-soft">
            <th scope="col" className="sticky left-0 bg-sheet px-2 py-1 text-left font-normal">
              Account
            </th>
            {data.periods.map(({ period, name }) => (
              <th key={period} scope="col" className="w-[34px] px-0 py-1 text-center font-normal" title={name}>
                {short(name)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {data.accounts.map((account) => (
            <tr key={account.code} className="border-b border-hair">
              <th scope="row" className="sticky left-0 bg-sheet px-2 py-0 text-left font-normal">
                <span className="block w-[208px] truncate" title={`${account.code} ${account.name}`}>
                  <span className="tabular-nums">{account.code}</span> {account.name}
                </span>
              </th>
              {account.months.map((month) => (
                <MonthCell key={month.period} month={month} account={account} data={data} />
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** “July 2026” in the width of a column: the month above the year. */
const short = (name: string) => {
  const [month = '', year = ''] = name.split(' ');
  return (
    <>
      {month.slice(0, 3)}
      <br />
      <span className="text-[11px] text-faint">{year.slice(-2)}</span>
    </>
  );
};

/** So many standard deviations are as dark as it gets. */
const DARKEST = 12;

function MonthCell({
  month,
  account,
  data,
}: {
  month: Month;
  account: AccountMonths['accounts'][number];
  data: AccountMonths;
}) {
  const { deviations } = month;
  if (deviations === null) return <td className="h-[26px] w-[34px] text-center text-faint">·</td>;
  const far = Math.abs(deviations);
  const out = far > data.limit;
  const shade = Math.round(Math.min(1, far / DARKEST) * 62);
  const name = data.periods.find((p) => p.period === month.period)?.name ?? month.period;
  const said = `${account.code} ${account.name}, ${name}: ${amountText(month.amount)} ${data.currency}, usually ${amountText(month.usual ?? '0')}; ${far.toFixed(1)} standard deviations ${deviations < 0 ? 'less' : 'more'}`;
  return (
    <td className="h-[26px] w-[34px] p-0">
      <a
        href={linesAt(data.address, { accounts: account.code, from: month.period, to: month.period })}
        title={said}
        aria-label={`${said}; to its lines`}
        className={`block h-[26px] text-center leading-[24px] tabular-nums hover:outline-2 hover:outline-ink ${deviations < 0 ? 'border-b-2' : 'border-t-2'} ${out ? 'border-ink font-semibold' : 'border-transparent'}`}
        style={{
          background:
            shade > 2
              ? `color-mix(in srgb, var(--${deviations < 0 ? 'fall' : 'warn'}) ${shade}%, transparent)`
              : undefined,
        }}
      >
        {out ? `${far > 99 ? '99+' : far.toFixed(0)}` : ''}
      </a>
    </td>
  );
}
