import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { methodsOf } from './openapi';
import { ROUTES } from './routes';

/** Every route that there is, by its folder and what it exports. */
function routesIn(folder: string, path = ''): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((e) => {
    if (e.isDirectory()) return routesIn(join(folder, e.name), `${path}/${e.name.replace(/^\[(\w+)\]$/, '{$1}')}`);
    if (e.name !== 'route.ts') return [];
    return [...readFileSync(join(folder, e.name), 'utf8').matchAll(/^export const (GET|POST|PUT|DELETE)\b/gm)].map(
      (m) => `${m[1]?.toLowerCase()} ${path}`,
    );
  });
}

test('what is described is what there is', () => {
  expect(routesIn('app/api/v1').sort()).toEqual(ROUTES.map((r) => `${r.method} ${r.path}`).sort());
});

test('a path has the methods of its route, and no other path has any', () => {
  expect(methodsOf('/api/v1/notes/3')?.sort()).toEqual(['DELETE', 'PUT']);
  expect(methodsOf('/api/v1/loads/compare')).toEqual(['GET']);
  for (const path of [
    '/api',
    '/api/v1',
    '/api/v1/nothing',
    '/api/v1/notes/3/4',
    '/api/v1/constructor',
    '/api/v1/openapixjson',
  ])
    expect([path, methodsOf(path)]).toEqual([path, null]);
});
