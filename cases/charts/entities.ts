import type { z } from 'zod';
import type { newEntitySchema } from '@/contracts/bodies';
import { ProblemError, wrong } from '@/contracts/problem';
import { type CalendarSpec, calendarFaults } from '@/core/calendar';
import { exponentOf } from '@/core/money';
import { rowsOf } from '@/store/db';
import { openEntity } from '@/store/layers';
import { type Context, known } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { maySee, require, seesWhole, type Viewer } from '../asking/viewer';

/** Adds a company to the installation. */
export async function addEntity(ctx: Context, viewer: Viewer, entity: z.infer<typeof newEntitySchema>) {
  require(viewer, 'owner', 'add an entity');
  const [fault] = calendarFaults(entity.calendar as CalendarSpec);
  if (fault) throw wrong('calendar', fault);
  try {
    exponentOf(entity.currency);
  } catch {
    throw wrong('currency', `“${entity.currency}” is no ISO 4217 currency`);
  }
  return onRecord(
    ctx,
    viewer,
    async (trx, record) => {
      const [added] = await rowsOf<{ id: number }>(
        trx,
        `insert into entity (code, name, names, currency, calendar, year_end, retained_earnings) values (?, ?, ?, ?, ?, ?, ?)
       on conflict (code) do nothing returning id`,
        [
          entity.code,
          entity.name,
          JSON.stringify(entity.names ?? {}),
          entity.currency,
          JSON.stringify(entity.calendar),
          entity.yearEnd,
          entity.retainedEarnings,
        ],
      );
      if (!added)
        throw new ProblemError(409, 'The entity is there already', [
          { path: 'code', message: `there is an entity ${entity.code}; choose another code` },
        ]);
      await openEntity(trx, added.id);
      await record('added an entity', `entity ${entity.code}`, entity);
      return { ...entity, names: entity.names ?? {} };
    },
    ctx.work,
  );
}

/** The entities that the viewer may see, with how far their lines reach, and the dimensions they share. */
export async function listEntities(ctx: Context, viewer: Viewer) {
  const { catalogue, extents, newest, controls } = await known(ctx.read);
  const whole = seesWhole(viewer);
  return {
    entities: [...catalogue.entities.values()]
      .filter((e) => maySee(viewer, e.code))
      .map(({ id, accountOf, code, name, names, currency, calendar, yearEnd, retainedEarnings }) => ({
        code,
        name,
        names,
        currency,
        calendar,
        yearEnd,
        retainedEarnings,
        reach: extents.get(code) ?? null,
        /** Accounts that documents are on. */
        controls: whole ? (controls.get(id) ?? []).map((account) => accountOf.get(account)?.code ?? '') : [],
      })),
    dimensions: [...catalogue.dimensions.values()].map((d) => ({
      code: d.code,
      name: d.name,
      members: [...d.tree.values()],
    })),
    newestLoad: newest,
  };
}
