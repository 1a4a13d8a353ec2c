'use client';

import { Popover } from 'radix-ui';
import { Fragment, type ReactNode, useState } from 'react';
import { wayHint } from '../help/hints';
import { useKeys } from '../shell/keys';

/** One of several ways to show a sheet. */
interface Chosen {
  key: string;
  /** What it is about, at the head of its choices. */
  label: string;
  value: string;
  /** The choice that nobody needs to be told of. */
  usual?: string;
  /** Each with what the sentence says of it. */
  choices: [value: string, phrase: string][];
  onChange(value: string): void;
}

/** A part with a panel of its own. */
interface Own {
  key: string;
  label: string;
  /** What the sentence says of it; null where that is nothing out of the usual. */
  phrase: string | null;
  content: ReactNode;
  /** The key that opens it. */
  opensBy?: string;
}

export type ViewPart = Chosen | Own;

const phraseOf = (part: ViewPart): string | null => {
  if ('content' in part) return part.phrase;
  return part.value === part.usual ? null : (part.choices.find(([value]) => value === part.value)?.[1] ?? null);
};

/**
 * How a sheet is shown, as a sentence under the one of its scope: what is out of the usual is spelled out, and each part
 * opens its choices; all of them are behind the last word.
 */
export function ViewSentence({ parts, begins = 'Shown' }: { parts: (ViewPart | null)[]; begins?: string }) {
  const all = parts.filter((part) => part !== null);
  const said = all.filter((part) => phraseOf(part) !== null);
  const [open, setOpen] = useState<string | null>(null);
  const keyed = all.flatMap((part) => ('content' in part && part.opensBy ? [[part.opensBy, part.key] as const] : []));
  useKeys(
    Object.fromEntries(
      keyed.map(([key, part]) => [key, () => setOpen(said.some((s) => s.key === part) ? part : MORE)]),
    ),
  );
  const at = (key: string) => ({ open: open === key, onOpenChange: (is: boolean) => setOpen(is ? key : null) });
  return (
    <p className="min-w-0 text-[13px] leading-[22px]">
      {begins}{' '}
      {said.map((part, i) => (
        <Fragment key={part.key}>
          {i > 0 && ', '}
          <Popover.Root {...at(part.key)}>
            <Popover.Trigger
              aria-label={`${part.label}: ${phraseOf(part)}`}
              title={wayHint(part.label)}
              className="cursor-pointer text-ink underline decoration-faint decoration-1 underline-offset-4 hover:decoration-ink"
            >
              {phraseOf(part)}
            </Popover.Trigger>
            <Choices parts={[part]} onDone={() => setOpen(null)} />
          </Popover.Root>
        </Fragment>
      ))}
      {said.length > 0 ? '. ' : ''}
      <Popover.Root {...at(MORE)}>
        <Popover.Trigger
          aria-label="All ways to show it"
          title="All ways to show it"
          className="cursor-pointer px-1 text-faint hover:text-ink"
        >
          …
        </Popover.Trigger>
        <Choices parts={all} onDone={() => setOpen(null)} />
      </Popover.Root>
    </p>
  );
}

const MORE = '~more';

/** @param onDone called where something was pointed at, or Enter pressed: arrows go from choice to choice */
const Choices = ({ parts, onDone }: { parts: readonly ViewPart[]; onDone(): void }) => (
  <Popover.Portal>
    <Popover.Content
      align="start"
      sideOffset={6}
      collisionPadding={12}
      className="panel max-h-[min(80vh,var(--radix-popover-content-available-height))] w-[320px] overflow-auto p-3 text-[14px]"
    >
      {parts.map((part) =>
        'content' in part ? (
          <section key={part.key} aria-label={part.label} className="mb-2">
            {part.content}
          </section>
        ) : (
          <fieldset key={part.key} className="mb-2">
            <legend className="mb-1 text-soft">{part.label}</legend>
            {part.choices.map(([value, phrase]) => (
              <label key={value} className="flex items-center gap-2 py-[2px]">
                <input
                  type="radio"
                  name={part.key}
                  checked={part.value === value}
                  onChange={({ nativeEvent }) => {
                    part.onChange(value);
                    if ((nativeEvent as MouseEvent).detail > 0) onDone();
                  }}
                  onKeyDown={({ key }) => key === 'Enter' && onDone()}
                />{' '}
                {phrase}
              </label>
            ))}
          </fieldset>
        ),
      )}
    </Popover.Content>
  </Popover.Portal>
);
