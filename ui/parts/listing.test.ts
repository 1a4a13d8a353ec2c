import { expect, test } from 'vitest';
import { type ListAttribute, listed, nextOrder, offered, shownOf, withShown } from './listing';

interface Fruit {
  name: string;
  colours: string[];
  weight: number;
}
const fruits: Fruit[] = [
  { name: 'Plum 10', colours: ['red', 'blue'], weight: 60 },
  { name: 'plum 9', colours: ['blue'], weight: -5 },
  { name: 'Quince', colours: [], weight: 300 },
];
const attributes: ListAttribute<Fruit>[] = [
  { key: 'name', label: 'Name', of: (f) => [f.name], unlimited: true },
  { key: 'colour', label: 'Colour', of: (f) => f.colours },
  { key: 'weight', label: 'Weight', of: () => [], order: (f) => f.weight, unlimited: true },
];
const names = (find: string, order: string, chosen: Record<string, string> = {}) =>
  listed(fruits, attributes, { find, order, chosen }, (f) => f.name).map((f) => f.name);

test('a list is found in, limited and put in order, numbers within names by their size', () => {
  expect(names('PLUM', '')).toEqual(['Plum 10', 'plum 9']);
  expect(names('', '', { colour: 'blue' })).toEqual(['Plum 10', 'plum 9']);
  expect(names('', 'name')).toEqual(['plum 9', 'Plum 10', 'Quince']);
  expect(names('', '-weight')).toEqual(['Quince', 'Plum 10', 'plum 9']);
  // What has no value stays at the end, whichever way the order runs.
  expect(names('', 'colour').at(-1)).toBe('Quince');
  expect(names('', '-colour').at(-1)).toBe('Quince');
  expect(['', 'a', '-a', 'b'].map((order) => nextOrder(order, 'a'))).toEqual(['a', '-a', '', 'a']);
});

test('how a list is shown stands in the address, beside what else is there', () => {
  const shown = { find: 'plum', order: '-name', chosen: { colour: 'blue' } };
  const params = withShown(new URLSearchParams('entity=ONE&~dimension=ship&~find=old'), shown);
  expect(shownOf(params)).toEqual(shown);
  expect(params.get('entity')).toBe('ONE');
  expect(params.get('~dimension')).toBe('ship');
  const bare = withShown(params, { find: '', order: '', chosen: { colour: '' } });
  expect(bare.toString()).toBe('entity=ONE&%7Edimension=ship');
});

test('limits are offered where rows differ', () => {
  expect(offered(fruits, attributes, {})).toEqual([{ key: 'colour', label: 'Colour', values: ['blue', 'red'] }]);
  const [plum] = fruits;
  expect(offered([plum as Fruit, { ...(plum as Fruit), colours: ['red', 'blue'] }], attributes, {})[0]?.values).toEqual(
    ['blue', 'red'],
  );
});
