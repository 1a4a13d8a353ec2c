'use client';

import { type HierarchyPointNode, stratify, tree } from 'd3-hierarchy';
import type { ThreadStep } from '@/contracts/answers/threads';
import { amountText } from '../amounts';

/** A map of few steps takes the place that there is, one of many is scrolled. */
const STEP_WIDE_LEAST = 220;
const STEP_WIDE_MOST = 320;
const PLACE_WIDE = 1_060;
/** What is between the end of a step's words and the next step: there a line goes up or down, over no words. */
const TURN_WIDE = 44;
const STEP_HIGH = 62;
/** A step is above its words. */
const KNOT_X = 8;
const KNOT_Y = 12;
const ROOT = 0;

/** The map of a thread: each step with its figure, each fork as it was taken. */
export function ThreadMap({
  steps,
  name,
  chosen,
  onChoose,
}: {
  steps: ThreadStep[];
  name: string;
  chosen: number | null;
  onChoose(id: number): void;
}) {
  const several = steps.filter((k) => k.parent === null).length > 1;
  const root = stratify<Pick<ThreadStep, 'id' | 'label'> & { parent: number | null; step: ThreadStep | null }>()
    .id((d) => String(d.id))
    .parentId((d) => (d.parent === null ? null : String(d.parent)))([
    ...(several ? [{ id: ROOT, label: name, parent: null, step: null }] : []),
    ...steps.map((k) => ({ id: k.id, label: k.label, parent: k.parent ?? (several ? ROOT : null), step: k })),
  ]);
  const stepWide = Math.min(STEP_WIDE_MOST, Math.max(STEP_WIDE_LEAST, Math.floor(PLACE_WIDE / (root.height + 1))));
  const laid = tree<typeof root.data>().nodeSize([STEP_HIGH, stepWide])(root);
  const nodes = laid.descendants();
  const top = Math.min(...nodes.map((n) => n.x));
  const high = Math.max(...nodes.map((n) => n.x)) - top + STEP_HIGH;
  const wide = Math.max(...nodes.map((n) => n.y)) + stepWide;
  const place = (n: HierarchyPointNode<typeof root.data>) => ({ x: n.y + KNOT_X, y: n.x - top + KNOT_Y });
  /** Straight on over the words of the step, and only then to the height of the next. */
  const line = (from: { x: number; y: number }, to: { x: number; y: number }): string => {
    const turn = to.x - TURN_WIDE;
    const middle = to.x - TURN_WIDE / 2;
    return `M${from.x},${from.y}H${turn}C${middle},${from.y} ${middle},${to.y} ${to.x},${to.y}`;
  };
  return (
    <div className="w-fit max-w-full overflow-auto border border-rule bg-sheet p-2">
      {/* biome-ignore lint/a11y/useSemanticElements: a drawing cannot be a fieldset */}
      <svg width={wide} height={high} role="group" aria-label={`Map of the thread, ${steps.length} steps`}>
        {laid.links().map(({ source, target }) => (
          <path
            key={target.id}
            d={line(place(source), place(target))}
            fill="none"
            stroke="var(--thread)"
            strokeWidth={2}
          />
        ))}
        {nodes.map((n) => {
          const { step } = n.data;
          return (
            <g key={n.id} transform={`translate(${place(n).x}, ${place(n).y})`}>
              <circle r={n.data.id === chosen ? 7 : 5} fill="var(--thread)" />
              <foreignObject x={-6} y={7} width={stepWide - TURN_WIDE - 8} height={40}>
                <button
                  type="button"
                  onClick={() => step && onChoose(step.id)}
                  title={n.data.label}
                  className={`block w-full cursor-pointer text-left leading-[18px] ${n.data.id === chosen ? 'font-semibold' : ''}`}
                >
                  <span className="block w-fit max-w-full truncate bg-sheet text-[13px]">{n.data.label}</span>
                  <span className="block w-fit max-w-full truncate bg-sheet text-[12.5px] text-soft">
                    {step?.value != null ? amountText(step.value) : ''}
                    {step?.moved && <span className="text-warn"> ≠ moved</span>}
                  </span>
                </button>
              </foreignObject>
            </g>
          );
        })}
      </svg>
    </div>
  );
}
