import type { z } from 'zod';
import type { testsByThemselvesSchema } from '@/contracts/bodies/all';
import { wrong } from '@/contracts/problem';
import { isTest, type Kept, TEST_CODES, type TestCode, testOf } from '@/core/tests/list';
import { GROUPS, type Param } from '@/core/tests/test';
import { forgetSetting, keepSetting } from '@/store/settings';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { figureAt } from '../asking/subjects';
import { maySee, require, requireWhole, type Viewer } from '../asking/viewer';
import { BY_THEMSELVES, type ByThemselves, byThemselves } from './byThemselves';

/** Every test, with its settings. */
export async function showTests(ctx: Context, viewer: Viewer) {
  const set = await byThemselves(ctx.read);
  return {
    groups: [...GROUPS],
    rows: TEST_CODES.map((code) => {
      const { name, group, looksFor, source, params, needs = [] } = testOf(code);
      return {
        ...{ code, name, group, looksFor, source, needs: [...needs] },
        parameters: Object.entries(params).map(([of, param]) => shownParam(of, param)),
      };
    }),
    firstLook: set === 'first look',
    byThemselves:
      set !== null && set !== 'first look' && set.entities.every((e) => maySee(viewer, e))
        ? { tests: set.tests, scope: set.scope, when: set.when, by: set.by }
        : null,
  };
}

const shownParam = (name: string, param: Param) => ({
  ...{ name, label: param.label, is: param.is },
  value: param.is === 'words' ? [...param.value] : param.is === 'choice' ? param.value : null,
  least: param.is === 'number' ? param.least : null,
  most: param.is === 'number' ? param.most : null,
  options: param.is === 'choice' ? [...param.options] : [],
});

/** The settings of a run in words: of amounts those of each company. */
export function settingsSaid(
  code: TestCode,
  kept: Readonly<Record<string, Kept>>,
  money: (entity: string, amount: number) => string,
): { label: string; value: string }[] {
  return Object.entries(testOf(code).params).flatMap(([name, param]) => {
    const value = kept[name];
    if (value === undefined) return [];
    if (typeof value === 'object' && !Array.isArray(value))
      return [
        {
          label: param.label,
          value: Object.entries(value as Record<string, number>)
            .map(([entity, amount]) => money(entity, amount))
            .join(', '),
        },
      ];
    return [{ label: param.label, value: Array.isArray(value) ? value.join(', ') : String(value) }];
  });
}

/** Tests by their codes; all where none are named. @throws ProblemError for one that is none */
export function testsNamed(codes: readonly string[] | undefined): TestCode[] {
  if (!codes) return TEST_CODES;
  return [...new Set(codes)].map((code, i) => {
    if (!isTest(code)) throw wrong(`tests.${i}`, `there is no test “${code}”; GET /tests lists them`);
    return code;
  });
}

/** A figure by its subject or its address. */
export const addressOf = (scope: string): string =>
  scope.startsWith('figure:') ? scope.slice('figure:'.length) : scope.replace(/^\?/, '');

/** Says which tests run by themselves, and when; null: none do. @throws ProblemError */
export async function setByThemselves(ctx: Context, viewer: Viewer, wanted: z.infer<typeof testsByThemselvesSchema>) {
  require(viewer, 'preparer', 'have tests run by themselves');
  requireWhole(viewer, 'Tests after each load are');
  const first = wanted !== null && 'firstLook' in wanted;
  const set = wanted === null || 'firstLook' in wanted ? null : await setOf(ctx, viewer, wanted);
  await onRecord(ctx, viewer, async (trx, record) => {
    if (first) await forgetSetting(trx, BY_THEMSELVES);
    else await keepSetting(trx, BY_THEMSELVES, { set }, viewer.name);
    await record('said which tests run by themselves', BY_THEMSELVES, {
      ...{ firstLook: first, tests: set?.tests ?? [], scope: set?.scope ?? '', when: set?.when ?? null },
    });
  });
  return showTests(ctx, viewer);
}

type Wanted = Exclude<z.infer<typeof testsByThemselvesSchema>, null | { firstLook: true }>;

async function setOf(ctx: Context, viewer: Viewer, wanted: Wanted): Promise<ByThemselves> {
  const asked = await figureAt(ctx, viewer, addressOf(wanted.scope), null);
  return {
    tests: testsNamed(wanted.tests),
    // As it was written: a window that is said by name moves on with the loads.
    scope: addressOf(wanted.scope),
    when: wanted.when,
    entities: asked.entities.map((e) => e.code),
    ...{ by: viewer.name, person: viewer.id },
  };
}
