'use client';

import { Popover } from 'radix-ui';
import { useMemo, useState } from 'react';
import { changed, type Screen, scopeAt } from '../address/address';
import { useAnswer, useEntities } from '../query/hooks';
import { useKeys } from '../shell/keys';

const KEPT = ['entity', 'from', 'to', 'window', 'status', 'load'];

/** The same sheet for any unit: the trees of every dimension, only what holds data, and the ways to the next and the one before. */
export function UnitChoice({ screen, go }: { screen: Screen; go(to: Screen): void }) {
  const scope = useMemo(() => scopeAt(screen, 0), [screen]);
  const asked = useMemo(() => {
    const params = new URLSearchParams([...scope].filter(([name]) => KEPT.includes(name)));
    return params.getAll('entity').length === 1 ? params : null;
  }, [scope]);
  const [open, setOpen] = useState(false);
  // What each unit holds is only asked for where somebody looks, or walks from unit to unit.
  const narrowed = [...scope.keys()].some((name) => name.startsWith('dim.'));
  const { data } = useAnswer('GET /dimensions', open || narrowed ? asked : null);
  const { data: entities } = useEntities();
  const [looking, setLooking] = useState<string | null>(null);
  const chosen = data?.dimensions.find((d) => scope.getAll(`dim.${d.code}`).length === 1);
  const member = chosen && scope.get(`dim.${chosen.code}`);
  const nodes = chosen?.rows.filter((r) => r.count > 0 || r.code === member) ?? [];
  const at = nodes.findIndex((r) => r.code === member);
  const to = (dimension: string, code: string): void =>
    go(changed(screen, { [`dim.${dimension}`]: code === '' ? [] : [code] }));
  const walk = (way: 1 | -1): void => {
    const next = at < 0 ? undefined : nodes[at + way];
    if (chosen && next) to(chosen.code, next.code);
  };
  useKeys({ ',': () => walk(-1), '.': () => walk(1) });
  if (!asked || !entities || entities.dimensions.length === 0) return null;
  const shown = data?.dimensions.find((d) => d.code === looking) ?? chosen ?? data?.dimensions[0];
  const [before, after] = at < 0 ? [undefined, undefined] : [nodes[at - 1], nodes[at + 1]];
  return (
    <span className="flex items-baseline gap-1.5 whitespace-nowrap">
      {before && (
        <button
          type="button"
          onClick={() => walk(-1)}
          className="max-w-[90px] cursor-pointer truncate text-faint hover:text-ink"
          title={`The unit before: ${before.name} ( , )`}
        >
          , {before.name}
        </button>
      )}
      <Popover.Root
        onOpenChange={(is) => {
          setOpen(is);
          setLooking(null);
        }}
      >
        <Popover.Trigger
          className="cursor-pointer hover:text-ink"
          title="The same sheet of one unit; , and . go from unit to unit"
        >
          <span className="text-faint">Unit</span>{' '}
          <span className="underline decoration-faint underline-offset-4">
            {at < 0 ? 'all' : (nodes[at]?.name ?? member)}
          </span>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="start"
            sideOffset={6}
            className="panel max-h-[70vh] w-[340px] overflow-auto p-3 text-[14px]"
          >
            <div
              role="tablist"
              aria-label="Dimensions"
              className="mb-2 flex flex-wrap gap-x-3 border-b border-rule pb-1"
            >
              {data?.dimensions.map((d) => (
                <button
                  key={d.code}
                  type="button"
                  role="tab"
                  aria-selected={d === shown}
                  onClick={() => setLooking(d.code)}
                  className={`cursor-pointer ${d === shown ? 'font-semibold underline underline-offset-4' : 'text-soft hover:text-ink'}`}
                >
                  {d.name}
                </button>
              ))}
            </div>
            <ul>
              <li>
                <button
                  type="button"
                  className="block w-full cursor-pointer px-1 py-[2px] text-left hover:bg-chosen"
                  onClick={() => shown && to(shown.code, '')}
                >
                  all of them together
                </button>
              </li>
              {shown?.rows
                .filter((r) => r.count > 0)
                .map((r) => (
                  <li key={r.code}>
                    <button
                      type="button"
                      aria-current={shown === chosen && r.code === member}
                      style={{ paddingLeft: `${4 + r.depth * 14}px` }}
                      className={`flex w-full cursor-pointer gap-2 py-[2px] pr-1 text-left hover:bg-chosen ${shown === chosen && r.code === member ? 'bg-chosen font-semibold' : ''}`}
                      onClick={() => to(shown.code, r.code)}
                    >
                      <span className="min-w-0 flex-1 truncate">{r.name}</span>
                      <span className="text-[12.5px] text-faint">{r.code}</span>
                    </button>
                  </li>
                ))}
            </ul>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      {after && (
        <button
          type="button"
          onClick={() => walk(1)}
          className="max-w-[90px] cursor-pointer truncate text-faint hover:text-ink"
          title={`The next unit: ${after.name} ( . )`}
        >
          {after.name} .
        </button>
      )}
    </span>
  );
}
