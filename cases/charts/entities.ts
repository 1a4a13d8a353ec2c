import type { z } from 'zod';
import type { newEntitySchema } from '@/contracts/bodies/all';
import { ProblemError, wrong } from '@/contracts/problem';
import { type CalendarSpec, calendarFaults } from '@/core/calendar';
import { exponentOf } from '@/core/money';
import { insertEntity } from '@/store/entities';
import { openEntity } from '@/store/layers';
import { type Context, known } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { knownMembers, maySee, require, requireBooks, seesWhole, type Viewer } from '../asking/viewer';

/** Adds a company to the installation. */
export async function addEntity(ctx: Context, viewer: Viewer, entity: z.infer<typeof newEntitySchema>) {
  require(viewer, 'owner', 'add an entity');
  requireBooks(viewer, null, 'add an entity');
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
      const names = entity.names ?? {};
      const id = await insertEntity(trx, { ...entity, names, calendar: entity.calendar as CalendarSpec });
      if (id === null)
        throw new ProblemError(409, 'The entity is there already', [
          { path: 'code', message: `there is an entity ${entity.code}; choose another code` },
        ]);
      await openEntity(trx, id);
      await record('added an entity', `entity ${entity.code}`, entity);
      return { ...entity, names };
    },
    ctx.work,
  );
}

/** The entities that the viewer may see, with how far their lines reach, and the dimensions they share. */
export async function listEntities(ctx: Context, viewer: Viewer) {
  const { catalogue, extents, newest, controls } = await known(ctx.read);
  const whole = seesWhole(viewer);
  return {
    today: ctx.today(),
    entities: [...catalogue.entities.values()]
      .filter((e) => maySee(viewer, e.code))
      .map(({ id, accountOf, code, name, names, currency, calendar, yearEnd, retainedEarnings, cash }) => ({
        code,
        name,
        names,
        currency,
        calendar,
        yearEnd,
        retainedEarnings,
        reach: extents.get(code) ?? null,
        cashSince: cash?.since ?? null,
        /** Accounts that documents are on. */
        controls: whole ? (controls.get(id) ?? []).map((account) => accountOf.get(account)?.code ?? '') : [],
      })),
    dimensions: [...catalogue.dimensions.values()].map((d) => {
      const mine = knownMembers(viewer, d.code, d.tree);
      return {
        code: d.code,
        name: d.name,
        members: [...d.tree.values()].filter((m) => mine === null || mine.has(m.code)),
      };
    }),
    newestLoad: newest,
  };
}
