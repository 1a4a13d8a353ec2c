import { expect, test } from 'vitest';
import type { Panel } from '@/contracts/panels';
import { moved, placed } from './layout';

const panel = (key: string, x: number, y: number, w = 4, h = 3): Panel => ({
  key,
  report: 1,
  kind: 'table',
  x,
  y,
  w,
  h,
});

test('arrows move a panel within the grid, and with Shift change its size', () => {
  const panels = [panel('a', 0, 0), panel('b', 8, 0)];
  const at = (next: Panel[], key: string) => {
    const { x, y, w, h } = next.find((p) => p.key === key) as Panel;
    return [x, y, w, h];
  };
  expect(at(moved(panels, 'a', 'ArrowLeft', false), 'a')).toEqual([0, 0, 4, 3]);
  expect(at(moved(panels, 'b', 'ArrowRight', false), 'b')).toEqual([8, 0, 4, 3]);
  expect(at(moved(panels, 'a', 'ArrowRight', false), 'a')).toEqual([1, 0, 4, 3]);
  expect(at(moved(panels, 'b', 'ArrowRight', true), 'b')).toEqual([8, 0, 4, 3]);
  expect(at(moved(panels, 'a', 'ArrowRight', true), 'a')).toEqual([0, 0, 5, 3]);
  expect(at(moved([panel('a', 0, 0, 2, 2)], 'a', 'ArrowUp', true), 'a')).toEqual([0, 0, 2, 2]);
  expect(moved(panels, 'a', 'ArrowDown', false)[1]).toBe(panels[1]);
});

test('what a drag leaves where it was changes nothing', () => {
  const panels = [panel('a', 0, 0)];
  expect(placed(panels, [{ i: 'a', x: 0, y: 0, w: 4, h: 3 }])).toBeNull();
  expect(placed(panels, [{ i: 'a', x: 2, y: 0, w: 4, h: 3 }])).toEqual([panel('a', 2, 0)]);
});
