import { expect, test } from 'vitest';
import { ownPath } from './ownPath';

test('no address leads away from this installation', () => {
  for (const away of [
    '//evil.example',
    '/\\evil.example/x',
    '/\\/evil.example',
    '\\\\evil.example',
    '/\t/evil.example',
    '/\n/evil.example',
    '/.//evil.example',
    'https://evil.example',
    'javascript:alert(1)',
    '',
    undefined,
    ['/x', '//y'],
  ])
    expect([away, ownPath(away)]).toEqual([away, '/desk']);
  expect(ownPath('/lines?entity=KSF&accounts=6310#x')).toBe('/lines?entity=KSF&accounts=6310#x');
});
