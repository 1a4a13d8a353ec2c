import { buffer } from 'node:stream/consumers';
import type { Context } from '@/cases/asking/context';
import type { Viewer } from '@/cases/asking/viewer';
import { handOver } from '@/cases/proposals/handOver';
import { sayMaterial } from '@/cases/proposals/materiality';
import { changeProposed, propose, proposeMoved } from '@/cases/proposals/propose';
import { makeSet } from '@/cases/proposals/sets';
import { keepTemplate } from '@/cases/proposals/templates';
import { materialitySchema, newProposedSchema, templateSchema } from '@/contracts/bodies/all';

/** What the people of the demo propose to have booked, in every state that an entry can be in. */
export async function leaveProposals(
  ctx: Context,
  { ines, tomas, priya }: Record<'ines' | 'tomas' | 'priya', Viewer>,
): Promise<void> {
  const proposed = (words: object): Promise<{ id: number }> =>
    propose(ctx, tomas, newProposedSchema.parse({ entity: 'KSF', kind: 'factual', ...words }));
  await sayMaterial(
    ctx,
    priya,
    materialitySchema.parse({
      ...{ entity: 'STL', year: 2027, performance: '75%', trivial: '5%' },
      basis: {
        subject: 'figure:entity=STL&from=2027.01&to=2027.06&accounts=type income',
        ...{ measure: 'movement', label: 'income of the half year', percent: '1.5' },
      },
      alternatives: [
        {
          subject: 'figure:entity=STL&from=2027.01&to=2027.06&accounts=type asset',
          ...{ measure: 'closing', label: 'total assets', percent: '1' },
        },
      ],
      reason: 'Who lends to the terminals looks at what they earn.',
    }),
  );
  // Story 3: approved. Story 10: approved, and handed over.
  const insurance = await proposed({
    ...{ date: '2026-08-31', title: 'Insurance released for a thirteenth month' },
    reason: 'The policy has twelve months; JE-KSF-90110 releases one more, and the prepayment ends in credit.',
    links: ['entry:KSF/JE-KSF-90110'],
    lines: [
      { account: '1410', amount: '156000.00' },
      { account: '8110', amount: '-156000.00' },
    ],
    taxPercent: '25',
  });
  await changeProposed(ctx, priya, insurance.id, { state: 'approved' });
  const charter = await proposed({
    ...{ date: '2026-08-01', title: 'Tax of the charter CH-0062 out of income' },
    reason: 'The second charter of the summer has its output tax in charter income.',
    links: ['entry:KSF/FI-CH-0062'],
    lines: [
      { account: '4410', amount: '2300.00', dims: { vessel: 'TERN' } },
      { account: '2310', amount: '-2300.00' },
    ],
  });
  await changeProposed(ctx, priya, charter.id, { state: 'approved' });
  await buffer((await handOver(ctx, tomas, { ids: [charter.id], format: 'csv' })).stream);
  // Story 1 and story 9: proposed, and not approved yet.
  await proposed({
    ...{ date: '2026-07-06', title: 'Second copy of the third docking stage' },
    reason: 'NS-2063I is NS-20631 once more; the yard says that it invoiced the stage once.',
    links: ['entry:KSF/PI-KSF-90639'],
    lines: [
      { account: '2122', amount: '410200.00', dims: { partner: 'NHS' } },
      {
        ...{ account: '6320', amount: '-410200.00' },
        dims: { vessel: 'MAREN', project: 'LINK-BRE', partner: 'NHS', costcentre: 'DK-MAR' },
      },
    ],
    taxPercent: '25',
  });
  await proposed({
    ...{ date: '2026-04-01', title: 'Winter lay-up accrual not reversed', kind: 'factual' },
    reason: 'JE-KSF-90904 accrued it in March, the invoice came in April, and both are in cost.',
    links: ['entry:KSF/JE-KSF-90904'],
    lines: [
      { account: '2192', amount: '81400.00' },
      { account: '6350', amount: '-81400.00', dims: { vessel: 'POOL' } },
    ],
    taxPercent: '25',
  });
  // Story 6: what was proposed was booked two days into the next period.
  const weekend = await proposed({
    ...{ date: '2026-08-31', title: 'Season adjustment of charters taken back' },
    reason: 'JE-KSF-90606 has no document and no customer.',
    links: ['entry:KSF/JE-KSF-90606'],
    lines: [
      { account: '4410', amount: '250000.00' },
      { account: '1311', amount: '-250000.00' },
    ],
  });
  await changeProposed(ctx, priya, weekend.id, { state: 'booked', booked: 'JE-KSF-90607' });
  // Left uncorrected: a judgement, below what is clearly trivial.
  const spares = await proposed({
    ...{ date: '2026-09-30', kind: 'judgemental', title: 'Spares that have not moved for two years' },
    reason: 'A quarter of their cost should be written down.',
    lines: [
      { account: '6310', amount: '9400.00', dims: { vessel: 'POOL', costcentre: 'EN-MAR' } },
      { account: '1212', amount: '-9400.00' },
    ],
  });
  await changeProposed(ctx, ines, spares.id, {
    ...{ state: 'waived', stateReason: 'Counted again in December; clearly trivial until then.' },
  });
  // Story 5: the tills of a terminal, too small to be corrected.
  const tills = await proposed({
    ...{ entity: 'STL', date: '2026-09-30', title: 'Till differences of Tolsey out of suspense' },
    reason: 'Seven differences since June stay in suspense.',
    lines: [
      { account: '8214', amount: '220.00', dims: { costcentre: 'TRM-TOL' } },
      { account: '2990', amount: '-220.00', dims: { costcentre: 'TRM-TOL' } },
    ],
  });
  await changeProposed(ctx, priya, tills.id, {
    ...{ state: 'waived', stateReason: 'Clearly trivial; the cashier’s days are looked into.' },
  });
  // Story 4: taken back until the log was read.
  const fuel = await proposeMoved(ctx, tomas, {
    ...{ lines: ['line:KSF/PI-KSF-90702/1'], to: { dims: { vessel: 'TERN', costcentre: 'EN-TER' } } },
    ...{ kind: 'reclassification', title: 'Fuel of a vessel in dock', thread: null },
    reason: 'Maren was in dock that week.',
  });
  await changeProposed(ctx, tomas, fuel.id, { state: 'retired', stateReason: 'First see in the log who took it on.' });
  await makeSet(ctx, tomas, { name: 'refit brought forward', about: 'What if the winter refit began in September?' });
  await proposed({
    ...{ date: '2026-09-30', kind: 'forecast', set: 'refit brought forward', title: 'Half of the winter refit' },
    reason: 'Berths are free from September.',
    lines: [
      { account: '6350', amount: '40700.00', dims: { vessel: 'POOL' } },
      { account: '2192', amount: '-40700.00' },
    ],
  });
  await keepTemplate(
    ctx,
    tomas,
    templateSchema.parse({
      ...{ name: 'Insurance of a month', entity: 'KSF', kind: 'factual' },
      reason: 'A twelfth of the year’s policy is released each month.',
      lines: [{ account: '8110', amount: '156000.00' }, { account: '1410' }],
    }),
  );
}
