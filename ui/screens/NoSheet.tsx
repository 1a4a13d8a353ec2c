import type { ReactNode } from 'react';
import type { Empty } from '@/contracts/answers/head';
import { backTo, changed, type Screen } from '../address/address';
import { StepLink } from '../address/StepLink';
import { ProblemAnswer } from '../query/problemAnswer';

/** Where there is no sheet to have the keyboard, what stands in its place has it; not if somebody is writing elsewhere. */
const takesKeyboard = (place: HTMLElement | null): void => {
  if (document.activeElement === document.body) place?.focus({ preventScroll: true });
};

/** What stands in the place of a sheet. */
const StandsIn = ({ title, alert = false, children }: { title: string; alert?: boolean; children: ReactNode }) => (
  <div
    ref={takesKeyboard}
    data-stands-in
    tabIndex={-1}
    {...(alert ? { role: 'alert' } : {})}
    className="flex-1 border border-rule bg-sheet p-8 outline-none"
  >
    <p className="font-book text-[18px] font-semibold">{title}</p>
    {children}
  </div>
);

/** Why a sheet has no rows, and where there are some. */
export function Nothing({ empty, screen }: { empty: Empty; screen: Screen }) {
  return (
    <StandsIn title="Nothing here">
      <p className="mt-2 max-w-[64ch]">{empty.reason}</p>
      {empty.instead && (
        <StepLink to={insteadOf(empty.instead, screen)} className="button mt-4">
          {empty.label}
        </StepLink>
      )}
    </StandsIn>
  );
}

/** Why a sheet that has rows, such as an opening balance, has no lines in its window. */
export const NoLines = ({ empty, screen }: { empty: Empty; screen: Screen }) => (
  <p className="mb-1.5 flex flex-wrap items-baseline gap-x-3 text-[13px]">
    {empty.reason}
    {empty.instead && (
      <StepLink
        to={insteadOf(empty.instead, screen)}
        className="underline decoration-rule underline-offset-4 hover:decoration-ink"
      >
        {empty.label}
      </StepLink>
    )}
  </p>
);

const insteadOf = (instead: Record<string, string>, screen: Screen): Screen =>
  changed(screen, Object.fromEntries(Object.entries(instead).map(([name, value]) => [name, [value]])));

/** Why a sheet cannot be shown, and what would help. */
export function Failure({ error, screen }: { error: Error; screen: Screen }) {
  if (error instanceof ProblemAnswer && error.kind === 'urn:just-thread:heavy')
    return <Heavy problem={error} screen={screen} />;
  return (
    <StandsIn title="This cannot be shown" alert>
      <p className="mt-2 max-w-[64ch] text-warn">{error.message}</p>
      <StepLink
        to={
          screen.steps.length > 0
            ? backTo(screen, screen.steps.length - 1)
            : { ...screen, scope: new URLSearchParams() }
        }
        className="button mt-4"
      >
        {screen.steps.length > 0 ? 'Back up one step' : 'Start over'}
      </StepLink>
    </StandsIn>
  );
}

/** Some rows of a sheet could not be read; the others stay. */
export const Unread = ({ error, readAgain }: { error: Error; readAgain(): void }) => (
  <span role="alert" className="text-warn">
    Some of these lines could not be read: {error.message}{' '}
    <button type="button" className="underline underline-offset-4 hover:decoration-ink" onClick={readAgain}>
      Read them again
    </button>
  </span>
);

/** A question that takes long is asked about before it is run, with what would make it light. */
function Heavy({ problem, screen }: { problem: ProblemAnswer; screen: Screen }) {
  return (
    <StandsIn title="This takes a while" alert>
      <p className="mt-2 max-w-[64ch]">{problem.title}. Quicker would be:</p>
      <ul className="mt-3 flex flex-col items-start gap-2">
        {problem.errors.map((help) => (
          <li key={help.message}>
            {help.put ? (
              <StepLink
                to={changed(screen, help.put)}
                className="underline decoration-rule underline-offset-4 hover:decoration-ink"
              >
                {help.message}
              </StepLink>
            ) : (
              help.message
            )}
          </li>
        ))}
      </ul>
      <StepLink to={changed(screen, { heavy: ['run'] })} className="button mt-5">
        Read them all the same
      </StepLink>
    </StandsIn>
  );
}
