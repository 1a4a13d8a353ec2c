'use client';

import { type HierarchyPointNode, stratify, tree } from 'd3-hierarchy';
import { linkHorizontal } from 'd3-shape';
import type { ThreadStep } from '@/contracts/answers/threads';
import { amountText } from '../amounts';

const STEP_WIDE = 196;
const STEP_HIGH = 62;
/** A step is above its words. */
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
  const laid = tree<typeof root.data>().nodeSize([STEP_HIGH, STEP_WIDE])(root);
  const nodes = laid.descendants();
  const top = Math.min(...nodes.map((n) => n.x));
  const high = Math.max(...nodes.map((n) => n.x)) - top + STEP_HIGH;
  const wide = Math.max(...nodes.map((n) => n.y)) + STEP_WIDE;
  const line = linkHorizontal<unknown, HierarchyPointNode<typeof root.data>>()
    .x((n) => n.y + 8)
    .y((n) => n.x - top + KNOT_Y);
  return (
    <div className="overflow-auto border border-rule bg-sheet p-2">
      {/* biome-ignore lint/a11y/useSemanticElements: a drawing cannot be a fieldset */}
      <svg width={wide} height={high} role="group" aria-label={`Map of the thread, ${steps.length} steps`}>
        {laid.links().map(({ source, target }) => (
          <path key={target.id} d={line({ source, target }) ?? ''} fill="none" stroke="var(--thread)" strokeWidth={2} />
        ))}
        {nodes.map((n) => {
          const { step } = n.data;
          return (
            <g key={n.id} transform={`translate(${n.y + 8}, ${n.x - top + KNOT_Y})`}>
              <circle r={n.data.id === chosen ? 7 : 5} fill="var(--thread)" />
              <foreignObject x={-6} y={7} width={STEP_WIDE - 16} height={40}>
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
