import { readdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { afterAll, beforeAll, expect, test, vi } from 'vitest';
import { ROUTES, type RouteName } from '@/contracts/routes';
import { type Fresh, freshInstallation, loadText } from '@/ops/fresh';

// OWASP ASVS 4.0.3, 4.2.1. Whoever is limited must be told the same whatever lies outside their grant: two installations
// have the same books within a grant and others outside of it, and every route answers the same to its viewer in both.

/** What is within the grant is the same in both worlds; what is outside has this word, amount and number of lines. */
interface Outside {
  word: string;
  amount: string;
  more: number;
}
const WORLDS: Outside[] = [
  { word: 'Quillback', amount: '731.11', more: 1 },
  { word: 'Tamarind', amount: '9042.57', more: 4 },
];
const NOT_TOLD = /quillback|tamarind|731[.,]?11|9[,.]?042[.,]?57/i;

const HEAD =
  'entry,line,date,account,debit,credit,description,entry_description,journal,counterparty,counterparty_name,document,tax_code,posted_by,dim:costcentre,dim:vessel';

async function lay(fresh: Fresh, { word, amount, more }: Outside): Promise<void> {
  const { addEntity } = await import('@/cases/charts/entities');
  for (const [code, name] of [
    ['ONE', 'One Ltd'],
    ['TWO', `${word} Ltd`],
  ] as const)
    await addEntity(fresh.ctx, fresh.owner, {
      code,
      name,
      currency: 'GBP',
      calendar: { kind: 'monthly', start: '04', adjustmentPeriods: 1 },
      yearEnd: 'derived',
      retainedEarnings: '3000',
    });
  const dims = ['dimension,code,name,parent'];
  dims.push('costcentre,OPS,Operations,', 'costcentre,DECK,Deck,OPS', `costcentre,X1,${word} kitchen,OPS`);
  dims.push('vessel,MAREN,Maren,', `vessel,X2,${word} barge,`);
  await loadText(fresh, dims.join('\n'), { kind: 'dimensions' });
  const chart = ['code,name,type,parent,posting'];
  chart.push(
    '6,Costs,expense,,no',
    '6100,Repairs,expense,6,yes',
    '6200,Fuel,expense,6,yes',
    '3000,Retained,equity,,yes',
  );
  chart.push(`7100,${word} rent,expense,,yes`, `1000,${word} bank,asset,,yes`);
  for (const entity of ['ONE', 'TWO']) await loadText(fresh, chart.join('\n'), { kind: 'accounts', entity });
  const within = (n: number, month: number, account: string, net: string): string[] => [
    `J-${n},1,2026-0${month}-10,${account},${net},,Pump ${n},Work ${n},PI,S-1,Harrow Works,D-${n},P20,lund,DECK,MAREN`,
    `J-${n},2,2026-0${month}-10,1000,,${net},${word} pays,Work ${n},PI,S-1,Harrow Works,D-${n},,lund,,`,
  ];
  const without = (n: number, month: number, entity = 'X'): string[] => [
    `${entity}-${n},1,2026-0${month}-12,7100,${amount},,${word} rent,${word} let,${word.slice(0, 4)},S-${word},${word} Homes,${word}-${n},P5,${word},X1,X2`,
    `${entity}-${n},2,2026-0${month}-12,6100,${amount},,${word} of others,${word} let,${word.slice(0, 4)},S-${word},${word} Homes,${word}-${n},P5,${word},X1,MAREN`,
    `${entity}-${n},3,2026-0${month}-12,1000,,${(Number(amount) * 2).toFixed(2)},${word} paid,${word} let,${word.slice(0, 4)},S-${word},${word} Homes,${word}-${n},,${word},,`,
  ];
  const own = [...within(1, 4, '6100', '100.00'), ...within(2, 5, '6200', '40.00'), ...within(3, 6, '6100', '60.00')];
  await loadText(fresh, [HEAD, ...own].join('\n'), { kind: 'lines', entity: 'ONE' });
  const others = Array.from({ length: more }, (_, i) => [...without(2 * i, 4), ...without(2 * i + 1, 6)]).flat();
  await loadText(fresh, [HEAD, ...others].join('\n'), { kind: 'lines', entity: 'ONE' });
  await loadText(fresh, [HEAD, ...without(1, 5, 'T')].join('\n'), { kind: 'lines', entity: 'TWO' });
  const plan = 'account,period,amount,version,dim:costcentre,dim:vessel';
  const planned = [`6100,1,90.00,Plan,DECK,MAREN`, `7100,1,${amount},Plan,X1,X2`, `6100,1,${amount},Plan,X1,X2`];
  await loadText(fresh, [plan, ...planned.map((r) => r.replace(',1,', ',2027.01,'))].join('\n'), {
    kind: 'budgets',
    entity: 'ONE',
  });
  const holding = 'number,name,kind,account,takes,currency,bank_account';
  await loadText(fresh, `${holding}\nB1,${word} current,bank,1000,both,GBP,${word}-0001`, {
    kind: 'holdings',
    entity: 'ONE',
  });
  const { runJobsHere } = await import('@/cases/jobs/runJob');
  await runJobsHere(fresh.ctx);
  const { askCashBasis } = await import('@/cases/documents/cashBasis');
  await askCashBasis(fresh.ctx, fresh.owner, 'ONE');
  await runJobsHere(fresh.ctx);
  const { writeNote } = await import('@/cases/evidence/notes');
  const { pin } = await import('@/cases/evidence/pins');
  const { saveThread } = await import('@/cases/evidence/threads/keep');
  const { keepSentence } = await import('@/cases/people/keptScopes');
  const { ctx, owner } = fresh;
  const window = 'entity=ONE&from=2027.01&to=2027.03';
  const mine = `${window}&dim.costcentre=DECK&dim.vessel=MAREN&accounts=6000+to+6999`;
  for (const subject of [
    `figure:${mine}`,
    `figure:${window}&accounts=7100`,
    'line:ONE/J-1/1',
    'line:ONE/X-0/1',
    'entry:ONE/X-0',
    'figure:entity=TWO&from=2027.01&to=2027.03',
  ]) {
    const seen = subject.includes('DECK') || subject.includes('J-1');
    const label = seen ? 'mine' : word;
    await writeNote(ctx, owner, { subject, measure: null, address: '', label, body: label });
    await pin(ctx, owner, { subject, measure: 'closing', address: '', label });
    const step = { address: '/trial-balance', label, view: 'sheet' as const, subject, measure: 'movement' as const };
    if (subject.startsWith('figure:')) await saveThread(ctx, owner, { name: label, steps: [step] });
  }
  await layEvidence(fresh, word, mine);
  const { freeze } = await import('@/cases/leaving/frozen');
  const { keepReport } = await import('@/cases/leaving/reports');
  const { keepPack } = await import('@/cases/leaving/packs');
  const { keepSchedule } = await import('@/cases/leaving/schedules');
  const leaves = { folder: '', page: '/lines', format: 'csv' as const, how: {}, shared: true };
  const path = `/lines?${window}&accounts=7100`;
  await freeze(ctx, owner, { path });
  const outside = await keepReport(ctx, owner, { ...leaves, name: `${word} rent`, path });
  const inside = await keepReport(ctx, owner, { ...leaves, name: 'Costs', path: `/trial-balance?${window}` });
  const pack = { words: null, units: null, scope: {}, shared: true };
  await keepPack(ctx, owner, { ...pack, name: `${word} pack`, reports: [outside.id] });
  await keepPack(ctx, owner, { ...pack, name: 'By centre', reports: [inside.id], units: 'dim:costcentre' });
  const { keepOverview } = await import('@/cases/leaving/overviews');
  for (const [name, report] of [
    [`${word} page`, outside.id],
    ['Costs', inside.id],
  ] as const)
    await keepOverview(ctx, owner, {
      ...{ name, scope: {}, shared: true },
      panels: [{ key: 'a', report, kind: 'table', x: 0, y: 0, w: 6, h: 4 }],
    });
  await keepSchedule(ctx, owner, {
    ...{ name: `${word} by night`, report: outside.id, pack: null, formats: ['csv'], receivers: [owner.id] },
    ...{ every: 'daily', parts: [], day: null, days: [], time: '07:00', zone: 'UTC', condition: null, paused: false },
  });
  const kept = { folder: '', place: 'trial-balance' as const, shared: true, opens: false };
  await keepSentence(ctx, owner, { ...kept, name: `${word} rent`, query: `${window}&accounts=7100` });
}

/** Evidence of every kind, within the grant and outside of it; and within it what speaks of what is outside. */
async function layEvidence({ ctx, owner }: Fresh, word: string, mine: string): Promise<void> {
  const { writeNote } = await import('@/cases/evidence/notes');
  const { tick } = await import('@/cases/evidence/ticks');
  const { raisePoint } = await import('@/cases/evidence/points');
  const { writeFinding } = await import('@/cases/evidence/findings');
  const { askColleague } = await import('@/cases/evidence/questions');
  const { saveThread } = await import('@/cases/evidence/threads/keep');
  const { sign } = await import('@/cases/evidence/threads/signOffs');
  const { addPerson } = await import('@/cases/people/people');
  await addPerson(ctx, owner, {
    email: 'ola@test.example',
    name: 'Ola',
    role: 'preparer',
    password: 'correct horse battery',
  });
  const outside = 'figure:entity=ONE&from=2027.01&to=2027.03&accounts=7100';
  const inside = `figure:${mine}`;
  const figure = {
    ...{ subject: outside, label: `${word} rent`, address: `/lines?${word}` },
    measure: 'closing' as const,
  };
  const quoting = {
    type: 'doc' as const,
    content: [
      {
        type: 'paragraph' as const,
        content: [
          { type: 'text' as const, text: 'against ' },
          {
            type: 'quoted' as const,
            attrs: { ...figure, currency: null, value: null, lines: null, load: null, now: null, moved: false },
          },
        ],
      },
    ],
  };
  const about = (subject: string) => ({ subject, address: '', label: subject === inside ? 'mine' : word });
  for (const subject of [inside, outside, 'line:ONE/X-0/1']) {
    await writeNote(ctx, owner, { ...about(subject), body: quoting });
    await tick(ctx, owner, { subjects: [subject], mark: 'explained', labels: [about(subject).label] });
    await raisePoint(ctx, owner, { ...about(subject), body: quoting });
    await askColleague(ctx, owner, { ...about(subject), to: 'ola@test.example', body: quoting });
    await writeFinding(ctx, owner, {
      ...{ title: about(subject).label, kind: 'error', subjects: subject === inside ? [inside, outside] : [outside] },
      ...{ amount: { subject: outside, measure: 'closing' }, cause: '', effect: '', recommendation: '' },
      ...{ owner: null, due: null, address: '', thread: null },
    });
  }
  // A thread of what is seen, which gathered what is not.
  const step = {
    address: '/trial-balance',
    label: 'mine',
    view: 'sheet' as const,
    subject: inside,
    measure: 'movement' as const,
  };
  const { id } = await saveThread(ctx, owner, { name: 'Gathered', steps: [step] });
  await writeNote(ctx, owner, { ...about(outside), body: word, thread: id });
  await tick(ctx, owner, { subjects: [outside], mark: 'cast', labels: [word], thread: id });
  await sign(ctx, owner, id, 'preparer');
}

/** The limited viewer's questions, each with what might widen the view. */
const SCOPES = [
  'entity=ONE',
  'entity=ONE&from=2027.01&to=2027.03',
  'entity=ONE&from=2027.01&to=2027.03&status=all&adjustments=with',
  'entity=ONE&window=everything',
  'entity=ONE&from=2026-04-05&to=2026-06-20',
  'entity=ONE&entity=TWO&window=everything',
  'entity=TWO&window=everything',
  'window=everything',
  'entity=ONE&window=everything&accounts=6100',
  'entity=ONE&window=everything&accounts=7100',
  'entity=ONE&window=everything&accounts=1000+to+9999',
  'entity=ONE&window=everything&accounts=type+expense',
  'entity=ONE&window=everything&dim.costcentre=X1',
  'entity=ONE&window=everything&dim.costcentre=OPS',
  'entity=ONE&window=everything&dim.costcentre=~none',
  'entity=ONE&window=everything&dim.costcentre=~not:DECK',
  'entity=ONE&window=everything&dim.vessel=X2',
  'entity=ONE&window=everything&text=of',
  'entity=ONE&window=everything&opposite=1000',
  'entity=ONE&window=everything&min=1',
  'entity=ONE&window=everything&journal=*',
  'entity=ONE&window=everything&load=5',
  'entity=ONE&window=everything&in=GBP',
  'entity=ONE&window=everything&accounting=cash',
];
/** Scopes in which a grant could be forgotten in a way of its own. */
const TELLING = [1, 3, 7, 11, 13, 15].map((i) => SCOPES[i] as string);
const over = (...extra: string[]): string[] => [
  ...SCOPES.map((s) => `?${s}`),
  ...extra.flatMap((x) => TELLING.map((s) => `?${s}${x}`)),
];
const SUBJECTS = [
  'figure:entity=ONE&accounts=7100',
  'line:ONE/X-0/1',
  'line:ONE/J-1/1',
  'line:ONE/J-1/2',
  'entry:ONE/J-1',
];
const OF_EVIDENCE = [
  '?entity=ONE',
  '?entity=TWO',
  '?thread=1',
  ...SUBJECTS.map((subject) => `?subject=${encodeURIComponent(subject)}`),
];
const note = (subject: string) => ({ subject, address: '', label: 'x', body: 'x' });
const ids = ['1', '2', '3', '4', '5', '6', '7', '8', '9', '10', '99'];
const scopeOnly = over();
/** Sheets that might leave; the first is within the grant. */
const LEAVING = [
  '/trial-balance?entity=ONE&window=everything&accounts=6100',
  '/trial-balance?entity=TWO&window=everything',
  '/lines?entity=ONE&window=everything&accounts=7100',
  '/sheets?entity=ONE&window=everything&accounts=7100&by=counterparty',
  '/sheets?entity=ONE&window=everything&dim.costcentre=X1&by=account',
];

interface Tried {
  /** Names in the path, one for each try; absent: the path has none. */
  paths?: Record<string, string>[];
  queries?: string[];
  bodies?: unknown[];
}
const each = (name: string, values: string[]): Record<string, string>[] => values.map((v) => ({ [name]: v }));
const all = (names: string[], values: string[][]): Record<string, string>[] =>
  values.map((row) => Object.fromEntries(names.map((n, i) => [n, row[i] as string])));

/** What is tried of every route; a new route does not compile before it is here. */
const TRIED: Record<RouteName, Tried> = {
  'GET /health': {},
  'GET /ready': {},
  'GET /metrics': {},
  'GET /session': {},
  'POST /session': { bodies: [] },
  'DELETE /session': { bodies: [] },
  'GET /session/provider/begin': {},
  'GET /session/provider/return': { queries: ['', '?code=x&state=y'] },
  'DELETE /people/{id}/identity': { paths: each('id', ids), bodies: [undefined] },
  'GET /samples': { queries: OF_EVIDENCE },
  'POST /samples': {
    bodies: ['ONE', 'TWO'].flatMap((e) =>
      ['6100', '7100', '1*'].map((accounts) => ({
        ...{
          scope: `entity=${e}&window=everything&accounts=${accounts}`,
          of: 'lines',
          method: 'random',
          size: 5,
          seed: 's',
        },
      })),
    ),
  },
  'POST /samples/plan': {
    bodies: ['ONE', 'TWO'].flatMap((e) =>
      ['6100', '7100', '6*'].flatMap((accounts) =>
        ['lines', 'entries', 'documents'].map((of) => ({
          ...{ scope: `entity=${e}&window=everything&accounts=${accounts}`, of, method: 'random', size: 5, seed: 's' },
        })),
      ),
    ),
  },
  'GET /samples/{id}': { paths: each('id', ids) },
  'PUT /samples/{id}': { paths: each('id', ids), bodies: [{ conclusion: 'x' }] },
  'DELETE /samples/{id}': { paths: each('id', ids), bodies: [undefined] },
  'PUT /samples/{id}/items': { paths: each('id', ids), bodies: [{ subject: 'line:ONE/J-1/1', found: '1.00' }] },
  'POST /samples/{id}/items': {
    paths: each('id', ids),
    bodies: [{ subject: 'line:ONE/J-1/1', by: 'line:ONE/J-2/1', why: 'x' }],
  },
  'GET /samples/{id}/evaluation': { paths: each('id', ids) },
  'GET /samples/{id}/redraw': { paths: each('id', ids) },
  'GET /samples/{id}/table': { paths: each('id', ids) },
  'GET /proposed-entries': { queries: [...OF_EVIDENCE, '?state=proposed', '?set=corrections'] },
  'POST /proposed-entries': {
    bodies: ['ONE', 'TWO'].flatMap((entity) =>
      ['6100', '7100'].map((account) => ({
        ...{ entity, date: '2026-04-10', kind: 'factual', reason: 'tried' },
        lines: [
          { account, amount: '1.00' },
          { account: '6100', amount: '-1.00' },
        ],
      })),
    ),
  },
  'POST /proposed-entries/draft': {
    bodies: ['ONE', 'TWO'].flatMap((e) =>
      ['6100', '7100'].map((accounts) => ({
        scope: `entity=${e}&window=everything&accounts=${accounts}`,
        make: { by: 'move', to: { account: '6100' } },
      })),
    ),
  },
  'POST /proposed-entries/move': {
    bodies: ['ONE', 'TWO'].map((e) => ({
      ...{ scope: `entity=${e}&window=everything&accounts=7100`, to: { account: '6100' } },
      ...{ reason: 'tried', kind: 'reclassification' },
    })),
  },
  'POST /proposed-entries/table': {
    bodies: ['ONE', 'TWO'].map((entity) => ({
      ...{ entity, kind: 'factual', reason: 'tried' },
      text: 'date,account,debit,credit\n2026-04-10,6100,1.00,\n2026-04-10,7100,,1.00',
    })),
  },
  'POST /proposed-entries/effect': {
    bodies: ['ONE', 'TWO'].map((entity) => ({
      ...{ entity, date: '2026-04-10' },
      lines: [
        { account: '6100', amount: '1.00' },
        { account: '7100', amount: '-1.00' },
      ],
    })),
  },
  'GET /proposed-entries/effect': { queries: ids.map((id) => `?ids=${id}`) },
  'GET /proposed-entries/export': { queries: ['', '?entity=TWO', ...ids.map((id) => `?ids=${id}&format=ads`)] },
  'GET /proposed-entries/{id}': { paths: each('id', ids) },
  'GET /proposed-entries/{id}/rests-on': { paths: each('id', ids) },
  'PUT /proposed-entries/{id}': {
    paths: each('id', ids),
    bodies: [{ reason: 'changed' }, { state: 'retired', stateReason: 'tried' }],
  },
  'GET /proposed-sets': {},
  'POST /proposed-sets': { bodies: [{ name: 'tried' }] },
  'GET /proposed-templates': {},
  'POST /proposed-templates': {
    bodies: ['ONE', 'TWO'].map((entity) => ({
      ...{ name: `of ${entity}`, entity, kind: 'factual', reason: 'monthly' },
      lines: [
        {
          account: '6100',
          of: { subject: `figure:entity=${entity}&accounts=7100`, measure: 'movement', percent: '10' },
        },
        { account: '7100' },
      ],
    })),
  },
  'DELETE /proposed-templates/{id}': { paths: each('id', ids), bodies: [undefined] },
  'POST /proposed-templates/{id}/draft': { paths: each('id', ids), bodies: [{ date: '2026-04-30' }] },
  'GET /materiality': { queries: ['', '?entity=ONE', '?entity=TWO', '?year=2026'] },
  'PUT /materiality': {
    bodies: ['ONE', 'TWO', null].map((entity) => ({
      ...{ entity, year: 2026, overall: '100.00', performance: '75%', trivial: '5%', reason: 'tried' },
    })),
  },
  'GET /misstatements': { queries: ['?entity=ONE', '?entity=TWO'] },
  'GET /tests': {},
  'PUT /tests/by-themselves': {
    bodies: [{ tests: ['large'], scope: 'entity=TWO&window=everything' }, { firstLook: true }, null],
  },
  'GET /first-digits': { queries: over('') },
  'GET /entered-times': { queries: over('') },
  'GET /who-posts-where': { queries: over('') },
  'GET /account-months': { queries: over('') },
  'GET /sizes': { queries: over('') },
  'GET /test-runs': { queries: OF_EVIDENCE },
  'POST /test-runs': {
    bodies: ['ONE', 'TWO'].flatMap((e) =>
      ['6100', '7*'].map((accounts) => ({
        scope: `entity=${e}&window=everything&accounts=${accounts}`,
        tests: ['large'],
      })),
    ),
  },
  'GET /test-runs/{id}': { paths: each('id', ids) },
  'DELETE /test-runs/{id}': { paths: each('id', ids), bodies: [undefined] },
  'POST /test-runs/{id}/again': { paths: each('id', ids), bodies: [undefined] },
  'GET /test-runs/{id}/hits': { paths: each('id', ids), queries: ['', '?state=open', '?by=account&key=TWO/7100'] },
  'GET /test-runs/{id}/groups': { paths: each('id', ids), queries: ['', '?by=party', '?by=account'] },
  'PUT /test-runs/{id}/hits/{key}': {
    paths: all(
      ['id', 'key'],
      ids.map((id) => [id, 'x']),
    ),
    bodies: [{ judgement: 'explained', note: 'x' }],
  },
  'GET /test-runs/{id}/compared': { paths: each('id', ids), queries: ['?with=1', '?with=2'] },
  'GET /ignored-hits': {},
  'POST /ignored-hits': { bodies: [{ run: 1, key: 'x', alike: ['account'], why: 'x' }] },
  'DELETE /ignored-hits/{id}': { paths: each('id', ids), bodies: [undefined] },
  'GET /threads/{id}/sharing': { paths: each('id', ids) },
  'PUT /threads/{id}/sharing': { paths: each('id', ids), bodies: [{ everybody: 'open', people: [] }] },
  'GET /scopes/{id}/sharing': { paths: each('id', ids) },
  'PUT /scopes/{id}/sharing': { paths: each('id', ids), bodies: [{ everybody: 'open', people: [] }] },
  'GET /entities': {},
  'POST /entities': { bodies: [] },
  'GET /entities/{code}/cash-basis': { paths: each('code', ['ONE', 'TWO', 'NONE']) },
  'POST /entities/{code}/cash-basis': { paths: each('code', ['TWO', 'NONE']), bodies: [{}] },
  'GET /loads': {},
  'POST /loads': { bodies: [] },
  'POST /files': { bodies: [] },
  'POST /files/{digest}/inspection': { paths: each('digest', ['0'.repeat(64)]), bodies: [{}] },
  'GET /mappings': {},
  'GET /schemas/{kind}': { paths: each('kind', ['lines', 'accounts']) },
  'GET /loads/{id}': { paths: each('id', ids) },
  'DELETE /loads/{id}': { paths: each('id', ids), bodies: [undefined] },
  'GET /loads/{id}/file': { paths: each('id', ids) },
  'GET /loads/{id}/problems': { paths: each('id', ids) },
  'GET /loads/{id}/completeness': { paths: each('id', ids) },
  'GET /loads/compare': { queries: ['?from=0&to=7', '?from=4&to=5&entity=ONE', '?from=0&to=7&entity=TWO'] },
  // What is found of the same words, and how much of it, is the same whatever lies outside.
  'GET /search': {
    queries: [
      'a',
      'e',
      'of',
      'j-1',
      'x-0',
      '6100',
      '7100',
      'deck',
      '100',
      '>1',
      '"rent"',
      'load',
      '2026-06',
      'one',
      'two',
      'x1',
    ].flatMap((q) => [`?q=${encodeURIComponent(q)}`, `?q=${encodeURIComponent(q)}&entity=ONE&limit=200`]),
  },
  'GET /newest': {},
  'GET /export': { queries: over('&format=json', '&what=accounts', '&what=dimensions', '&format=fec', '&format=ads') },
  'GET /accounts': { queries: scopeOnly },
  'PUT /accounts/{code}': {
    paths: each('code', ['6100', '7100']),
    bodies: [{ entity: 'ONE', name: 'x', language: null }],
  },
  'GET /dimensions': { queries: scopeOnly },
  'PUT /dimensions/{dimension}/{code}': {
    paths: all(
      ['dimension', 'code'],
      [
        ['costcentre', 'DECK'],
        ['costcentre', 'X1'],
        ['vessel', 'X2'],
      ],
    ),
    bodies: [{ name: 'x', language: null }],
  },
  'GET /parties': {},
  'GET /commitments': { queries: over('&due=all', '&due=later') },
  'GET /parties/{code}': {
    paths: each('code', ['S1', 'NONE']),
    queries: ['ONE', 'TWO', 'NONE'].map((e) => `?entity=${e}`),
  },
  'GET /calendars': {},
  'GET /holdings': { queries: scopeOnly },
  'PUT /holdings': { bodies: [{ entity: 'ONE', number: 'B1', name: 'x', kind: 'cash', account: '1000' }] },
  'DELETE /holdings/{entity}/{number}': { paths: all(['entity', 'number'], [['ONE', 'B1']]), bodies: [undefined] },
  'GET /connections': {},
  'POST /connections': { bodies: [{ name: 'x', url: 'http://127.0.0.1:1/' }] },
  'PUT /connections/{id}': { paths: each('id', ['1']), bodies: [{ privateAllowed: true }] },
  'DELETE /connections/{id}': { paths: each('id', ['1']), bodies: [undefined] },
  'POST /connections/{id}/pull': { paths: each('id', ['1']), bodies: [undefined] },
  'GET /journals': { queries: over('', '&order=entered', '&accounts=1*') },
  'GET /journals/series': { queries: over('', '&accounts=1*') },
  'GET /documents': { queries: over('&open=all', '&aged=document') },
  'GET /unmatched-documents': { queries: over('&accounts=1*') },
  'GET /document-register': {
    queries: ['', '&only=no-entry', '&only=not-delivered', '&words=a'].flatMap((x) =>
      ['ONE', 'TWO', 'NONE'].map((e) => `?entity=${e}${x}`),
    ),
  },
  'GET /documents/{id}': {
    paths: each('id', ['D-1', 'Quillback-0', 'Tamarind-0']),
    queries: ['?entity=ONE', '?entity=TWO', ''],
  },
  'GET /attachments': { queries: OF_EVIDENCE },
  'POST /attachments': { bodies: [] },
  'DELETE /attachments/{digest}': { paths: each('digest', ids), bodies: [undefined] },
  'GET /attachments/{digest}/contents': { paths: each('digest', ['0'.repeat(64)]) },
  'GET /attachments/{digest}': { paths: each('digest', ['0'.repeat(64)]) },
  'GET /trial-balance': {
    queries: over(
      '&format=csv&heading=without',
      '&tree=yes',
      '&zero=show&tree=yes',
      '&zero=active',
      '&column=year-before&column=budget:Plan',
      '&retained=parts&yearToDate=yes',
      '&eliminated=yes',
    ),
  },
  'GET /statements': { queries: ['?entity=ONE', '?entity=TWO', ''] },
  'GET /statements/{code}': {
    paths: each('code', ['income', 'balance', 'cashflow', 'position', 'tax']),
    queries: [
      ...scopeOnly,
      '?entity=ONE&window=everything&open=all',
      '?entity=ONE&window=everything&open=all&format=csv&heading=without',
      '?entity=ONE&window=everything&across=dim:costcentre&column=budget:Plan',
      '?entity=ONE&window=everything&column=committed-all&column=committed',
      '?entity=ONE&from=2027.01&to=2027.03&by=dim:vessel',
      '?entity=ONE&from=2027.01&to=2027.03&by=dim:costcentre',
      '?entity=ONE&from=2027.01&to=2027.03&by=account',
    ],
  },
  'GET /statements/{code}/outline': {
    paths: each('code', ['income']),
    queries: ['?entity=ONE', '?entity=TWO', '?entity=NONE'],
  },
  'PUT /statements/{code}/outline': {
    paths: each('code', ['income']),
    bodies: [
      {
        entity: 'ONE',
        outline: {
          code: 'income',
          name: 'x',
          kind: 'income',
          rows: [{ key: 'a', label: 'x', depth: 0, is: 'caption' }],
        },
      },
    ],
  },
  'DELETE /statements/{code}/outline': { paths: each('code', ['income']), bodies: [undefined] },
  'GET /sheets': {
    queries: over(
      ...[
        'account',
        'dim:costcentre',
        'dim:vessel',
        'dim:costcentre/OPS',
        'journal',
        'counterparty',
        'document',
        'period',
        'entity',
        'postedBy',
        'taxCode',
        'size',
        'description',
      ].map((by) => `&by=${by}`),
      '&by=type&by=account',
      '&by=account&across=dim:costcentre',
      '&by=account&column=year-before&column=budget:Plan&column=records:lines@window',
    ),
  },
  'GET /sentence': { queries: scopeOnly },
  'GET /totals': { queries: over('&column=budget:Plan', '&openings=permanent') },
  'POST /figures': { bodies: [{ figures: SCOPES.map((scope) => ({ scope })) }] },
  'POST /answers': {
    bodies: [{ asked: SCOPES.slice(0, 12).map((query) => ({ route: 'GET /totals', query })) }],
  },
  'GET /lines': {
    queries: over(
      '&format=json&heading=without',
      '&format=csv&heading=without',
      '&sort=-amount',
      '&at=1',
      '&limit=1',
      '&sort=counterparty',
    ),
  },
  'GET /lines/find': { queries: over('&find=a', '&find=J-1&at=2', '&find=e&at=1&way=previous') },
  'GET /entries/{id}': {
    paths: each('id', ['e1', 'e2', 'e3', 'e4', 'e5', 'e6', 'J-1', 'X-0', 'T-1']),
    queries: ['', '?entity=ONE', '?entity=TWO'],
  },
  'GET /other-side': { queries: scopeOnly },
  'GET /marks': { queries: over('&statement=income') },
  'GET /settings/marks': {},
  'GET /settings/source-links': {},
  'PUT /settings/source-links': { bodies: [{ entity: 'TWO', link: 'https://x.example/{entry}' }] },
  'GET /settings/ages': {},
  'PUT /settings/ages': { bodies: [{ edges: [30, 60] }] },
  'GET /settings/entry-origins': {},
  'PUT /settings/entry-origins': { bodies: [{ rows: [{ pattern: 'X-*', name: 'By hand', leads: 'entry' }] }] },
  'PUT /settings/marks': { bodies: [{ change: null, wrongSide: false, silent: null, material: null, share: null }] },
  'GET /over-time': { queries: over('&measure=closing') },
  'GET /what-moved': { queries: over('&measure=closing', '&against=window-before') },
  'GET /columns': {},
  'PUT /columns/{sheet}': {
    paths: each('sheet', ['lines']),
    bodies: [{ order: [], hidden: [], shown: [], widths: {}, fit: false }],
  },
  'DELETE /columns/{sheet}': { paths: each('sheet', ['lines']), bodies: [undefined] },
  'GET /scopes': {},
  'POST /scopes': { bodies: [{ name: 'x', place: 'lines', query: 'entity=TWO' }] },
  'PUT /scopes/{id}': { paths: each('id', ['1']), bodies: [{ atHand: true }] },
  'DELETE /scopes/{id}': { paths: each('id', ['1']), bodies: [undefined] },
  'GET /budgets': { queries: ['?entity=ONE', '?entity=TWO'] },
  'POST /budgets': { bodies: [{ entity: 'ONE', version: 'New', year: 2027, from: { version: 'Plan', year: 2027 } }] },
  'GET /budgets/{version}': {
    paths: each('version', ['Plan']),
    queries: ['?entity=ONE&year=2027', '?entity=ONE&year=2027&unit=costcentre:DECK', '?entity=TWO&year=2027'],
  },
  'PUT /budgets/{version}': {
    paths: each('version', ['Plan']),
    bodies: [
      {
        entity: 'ONE',
        year: 2027,
        unit: ['costcentre:DECK'],
        asOf: 9,
        cells: [{ account: '6100', period: '2027.01', amount: '1.00' }],
      },
    ],
  },
  'GET /notes': {
    queries: ['?entity=ONE', '?entity=TWO', ...SUBJECTS.map((s) => `?subject=${encodeURIComponent(s)}`)],
  },
  'POST /notes': { bodies: SUBJECTS.map(note) },
  'DELETE /notes/{id}': { paths: each('id', ids), bodies: [undefined] },
  'PUT /notes/{id}': { paths: each('id', ids), bodies: [undefined] },
  'GET /pins': { queries: ['?entity=ONE', '?entity=TWO', ...SUBJECTS.map((s) => `?subject=${encodeURIComponent(s)}`)] },
  'POST /pins': {
    bodies: SUBJECTS.map((subject) => ({ subject, address: '', label: 'x' })),
  },
  'GET /pins/{id}': { paths: each('id', ids) },
  'DELETE /pins/{id}': { paths: each('id', ids), bodies: [undefined] },
  'GET /tick-marks': {},
  'PUT /tick-marks': { bodies: [{ marks: [{ code: 'seen', shape: 'hook', meaning: 'seen' }] }] },
  'GET /ticks': { queries: OF_EVIDENCE },
  'POST /ticks': { bodies: SUBJECTS.map((subject) => ({ subjects: [subject], mark: 'explained' })) },
  'DELETE /ticks/{id}': { paths: each('id', ids), bodies: [undefined] },
  'GET /ticks/share': { queries: scopeOnly },
  'GET /review-points': { queries: ['', ...OF_EVIDENCE] },
  'POST /review-points': { bodies: SUBJECTS.map(note) },
  'PUT /review-points/{id}': {
    paths: each('id', ids),
    bodies: [{ state: 'answered', body: 'x' }, { state: 'cleared' }],
  },
  'GET /questions': { queries: ['', ...OF_EVIDENCE] },
  'POST /questions': { bodies: SUBJECTS.map((subject) => ({ ...note(subject), to: 1 })) },
  'GET /questions/{id}': { paths: each('id', ids) },
  'POST /questions/{id}/answers': { paths: each('id', ids), bodies: [{ body: 'x' }] },
  'GET /findings': { queries: ['', ...OF_EVIDENCE] },
  'POST /findings': { bodies: SUBJECTS.map((subject) => ({ title: 'x', kind: 'error', subjects: [subject] })) },
  'GET /findings/{id}': { paths: each('id', ids) },
  'PUT /findings/{id}': { paths: each('id', ids), bodies: [{ state: 'agreed' }] },
  'GET /history': { queries: SUBJECTS.map((s) => `?subject=${encodeURIComponent(s)}`) },
  'GET /colleagues': {},
  'GET /expectations': { queries: OF_EVIDENCE },
  'POST /expectations': {
    bodies: SUBJECTS.map((subject) => ({
      ...{ subject, rule: { by: 'year-before', percent: '3' }, reason: 'x', least: '1.00' },
    })),
  },
  'GET /expectations/{id}': { paths: each('id', ids) },
  'PUT /expectations/{id}': {
    paths: each('id', ids),
    bodies: SUBJECTS.map((subject) => ({ parts: [{ text: 'x', subject, measure: 'movement' }] })),
  },
  'DELETE /expectations/{id}': { paths: each('id', ids), bodies: [undefined] },
  'GET /desk': {},
  'POST /desk/seen': { bodies: [{ kind: 'note', id: 1 }, { moved: true }] },
  'GET /completeness': { queries: over('&statement=income', '&statement=balance&above=50') },
  'GET /cross-references': { queries: ['', ...OF_EVIDENCE] },
  'POST /cross-references': {
    bodies: [
      { a: 1, b: 2 },
      { a: 2, b: 3 },
    ],
  },
  'DELETE /cross-references/{id}': { paths: each('id', ids), bodies: [undefined] },
  'POST /threads/{id}/sign-offs': { paths: each('id', ids), bodies: [{ as: 'preparer' }] },
  'GET /threads/{id}/sign-offs/{signOff}': { paths: ids.map((id) => ({ id, signOff: id })) },
  'POST /threads/{id}/reopen': { paths: each('id', ids), bodies: [{ reason: 'x' }] },
  'POST /threads/{id}/evidence': { paths: each('id', ids), bodies: [{ kind: 'note', id: 2 }] },
  'POST /threads/roll-forward': {
    bodies: [
      { threads: [1], from: '2027.01', to: '2027.03' },
      { threads: [2], from: '2027.01', to: '2027.03' },
    ],
  },
  'GET /threads': {},
  'POST /threads': {
    bodies: SUBJECTS.map((subject) => ({
      name: 'x',
      steps: [{ address: '/x', label: 'x', view: 'sheet', subject, measure: 'movement' }],
    })),
  },
  'GET /threads/{id}': { paths: each('id', ids) },
  'PUT /threads/{id}': { paths: each('id', ids), bodies: [{ name: 'x' }] },
  'DELETE /threads/{id}': { paths: each('id', ids), bodies: [undefined] },
  'POST /threads/{id}/steps': {
    paths: each('id', ids),
    bodies: [{ steps: [{ address: '/x', label: 'x', view: 'sheet', subject: 'figure:entity=TWO' }] }],
  },
  'PUT /threads/{id}/steps/{step}': { paths: ids.map((id) => ({ id, step: id })), bodies: [{ note: 'x' }] },
  'DELETE /threads/{id}/steps/{step}': { paths: ids.map((id) => ({ id, step: id })), bodies: [undefined] },
  'GET /threads/{id}/replay': {
    paths: each('id', ids),
    queries: ['?window=everything', '?entity=TWO', '?member=costcentre:X1', '?member=costcentre:OPS', '?load=5'],
  },
  'GET /threads/{id}/fan-out': {
    paths: each('id', ids),
    queries: ['?by=entity', '?by=dim:costcentre', '?by=dim:vessel'],
  },
  'GET /people': {},
  'POST /people': { bodies: [{ email: 'x@x.example', name: 'x', role: 'reader' }] },
  'GET /second-factor': {},
  'POST /second-factor': { bodies: [] },
  'PUT /second-factor': { bodies: [{ code: '000000' }] },
  'DELETE /people/{id}/second-factor': { paths: each('id', ['1', '2']), bodies: [undefined] },
  'GET /settings/second-factor': {},
  'PUT /settings/second-factor': { bodies: [{ required: 'nobody' }] },
  'POST /people/see-as': { bodies: [{ role: 'reader', entities: ['TWO'] }] },
  'PUT /people/{id}': {
    paths: each('id', ['1', '2', 'me']),
    bodies: [{ accounts: null, members: {}, entities: null }, { role: 'owner' }],
  },
  'DELETE /people/{id}': { paths: each('id', ['1', '2', 'me']), bodies: [undefined] },
  'POST /people/{id}/reset': { paths: each('id', ['1', '2']), bodies: [undefined] },
  'GET /people/{id}/sessions': { paths: each('id', ['1']) },
  'DELETE /people/{id}/sessions': { paths: each('id', ['1']), bodies: [undefined] },
  'DELETE /people/{id}/sessions/{session}': { paths: all(['id', 'session'], [['1', '1']]), bodies: [undefined] },
  'GET /people/{id}/tokens': { paths: each('id', ['1']) },
  'POST /people/{id}/tokens': { paths: each('id', ['1']), bodies: [{ name: 'x', days: 1 }] },
  'DELETE /people/{id}/tokens': { paths: each('id', ['1']), bodies: [undefined] },
  'DELETE /people/{id}/tokens/{token}': { paths: all(['id', 'token'], [['1', '1']]), bodies: [undefined] },
  'PUT /password': { bodies: [] },
  'POST /password': { bodies: [] },
  'POST /first-owner': { bodies: [] },
  'POST /ledgers': { bodies: [] },
  'POST /files/{digest}/proposal': { paths: each('digest', ['0'.repeat(64)]), bodies: [{ name: 'x' }] },
  'GET /guesses': {},
  'PUT /guesses/{entity}': { paths: each('entity', ['ONE', 'TWO']), bodies: [{}] },
  'GET /jobs': {},
  'GET /jobs/{id}': { paths: each('id', ids) },
  'DELETE /jobs/{id}': { paths: each('id', ids), bodies: [undefined] },
  'GET /record': { queries: ['', '?act=loaded'] },
  'GET /record/table': {},
  'GET /record/check': {},
  'GET /openapi.json': {},
  'GET /exports': {},
  'POST /exports': { bodies: LEAVING.map((path) => ({ path, format: 'csv' })) },
  'GET /exports/{id}': { paths: each('id', ids) },
  'GET /exports/{id}/file': { paths: each('id', ids) },
  'POST /threads/{id}/bundle': { paths: each('id', ids), bodies: [undefined] },
  'GET /frozen': {},
  'POST /frozen': { bodies: LEAVING.slice(1).map((path) => ({ path })) },
  'GET /frozen/{id}': { paths: each('id', ids) },
  'GET /reports': {},
  'POST /reports': { bodies: LEAVING.map((path) => ({ name: path, path, page: '/lines' })) },
  'GET /reports/{id}': { paths: each('id', ids) },
  'PUT /reports/{id}': { paths: each('id', ids), bodies: [{ name: 'x' }, ...LEAVING.map((path) => ({ path }))] },
  'DELETE /reports/{id}': { paths: each('id', ids), bodies: [undefined] },
  'GET /packs': {},
  'POST /packs': {
    bodies: [
      { name: 'x', reports: [1] },
      { name: 'y', reports: [2], units: 'dim:costcentre' },
      { name: 'z', reports: [2], scope: { entity: ['TWO'] } },
    ],
  },
  'PUT /packs/{id}': { paths: each('id', ids), bodies: [{ reports: [1] }, { scope: { 'dim.costcentre': ['X1'] } }] },
  'DELETE /packs/{id}': { paths: each('id', ids), bodies: [undefined] },
  'GET /packs/{id}/copies': { paths: each('id', ids) },
  'GET /packs/{id}/file': { paths: each('id', ['1', '99']) },
  'GET /export/check': { queries: SCOPES.flatMap((s) => ['fec', 'saft', 'ads'].map((f) => `?${s}&format=${f}`)) },
  'POST /threads/bundles': { bodies: [{ threads: [1, 2], name: 'x' }] },
  'GET /paper-templates': {},
  'POST /paper-templates': { bodies: [{ name: 'x', format: 'pdf', how: { paper: 'a3' } }] },
  'DELETE /paper-templates/{id}': { paths: [{ id: '1' }] },
  'GET /embeds': {},
  'POST /embeds': {
    bodies: [
      { report: 1, kind: 'table' },
      { report: 2, kind: 'figure', days: 400 },
    ],
  },
  'DELETE /embeds/{id}': { paths: [{ id: '1' }] },
  'GET /settings/embeds': {},
  'PUT /settings/embeds': { bodies: [{ origins: ['https://intranet.example'] }, { origins: ['nowhere'] }] },
  'GET /settings/letterhead': {},
  'PUT /settings/letterhead': { bodies: [{ name: 'x', logo: null }] },
  'GET /overviews': {},
  'POST /overviews': {
    bodies: [1, 2].map((report) => ({
      name: `o${report}`,
      panels: [{ key: 'a', report, kind: 'table', x: 0, y: 0, w: 6, h: 4 }],
    })),
  },
  'GET /overviews/{id}': { paths: each('id', ids) },
  'PUT /overviews/{id}': { paths: each('id', ids), bodies: [{ scope: { entity: ['TWO'] } }] },
  'DELETE /overviews/{id}': { paths: each('id', ids), bodies: [undefined] },
  'GET /overviews/{id}/file': { paths: each('id', ['1', '99']), queries: ['', '?format=xlsx&window=latest-period'] },
  'GET /overviews/{id}/panels/{key}': {
    paths: ['1', '2', '99'].flatMap((id) => each('key', ['a']).map((k) => ({ ...k, id }))),
    queries: ['', '?entity=TWO', '?entity=ONE&window=everything'],
  },
  'GET /schedules': {},
  'POST /schedules': {
    bodies: [1, 2, 3].map((report) => ({
      ...{ name: 'x', report, formats: ['csv'], receivers: [1], every: 'daily', time: '07:00' },
    })),
  },
  'PUT /schedules/{id}': { paths: each('id', ids), bodies: [{ receivers: [1] }] },
  'DELETE /schedules/{id}': { paths: each('id', ids), bodies: [undefined] },
  'POST /schedules/{id}/run': { paths: each('id', ids), bodies: [undefined] },
  'GET /schedules/{id}/runs': { paths: each('id', ids) },
};

/** Every question to every route, told apart by its words, with its answer. */
async function crawl(fresh: Fresh, outside: Outside): Promise<Map<string, string>> {
  await lay(fresh, outside);
  const { addPerson } = await import('@/cases/people/people');
  const { makeToken } = await import('@/cases/people/tokens');
  await addPerson(fresh.ctx, fresh.owner, {
    email: 'nia@test.example',
    name: 'Nia',
    role: 'preparer',
    password: 'correct horse battery',
    entities: ['ONE'],
    members: { costcentre: ['DECK'], vessel: ['MAREN'] },
    accounts: '6000 to 6999',
  });
  const authorization = `Bearer ${await makeToken(fresh.ctx, 'nia@test.example')}`;
  const before = { ...process.env };
  Object.assign(process.env, fresh.env);
  vi.resetModules();
  const answers = new Map<string, string>();
  // What changes something comes last, so that all is asked of the same books.
  const inOrder = [...ROUTES].sort((a, b) => Number(a.method !== 'get') - Number(b.method !== 'get'));
  for (const { name, method, path } of inOrder) {
    const file = resolve('app/api/v1', `.${path.replace(/\{(\w+)\}/g, '[$1]')}`, 'route.ts');
    const handler = ((await import(/* @vite-ignore */ file)) as Record<string, Handler>)[method.toUpperCase()];
    const { paths = [{}], queries = [''], bodies } = TRIED[name];
    for (const params of paths)
      for (const query of queries)
        for (const body of method === 'get' ? [undefined] : (bodies ?? [])) {
          const asked = `${name} ${JSON.stringify(params)} ${query} ${body === undefined ? '' : JSON.stringify(body)}`;
          const request = new Request(`http://books.example/api/v1${path}${query}`, {
            method: method.toUpperCase(),
            headers: { authorization },
            ...(body === undefined ? {} : { body: JSON.stringify(body) }),
          });
          const response = await (handler as Handler)(request, { params: Promise.resolve(params) });
          answers.set(asked, `${response.status} ${await textOf(response)}`);
        }
  }
  const { closeContext, context } = await import('@/cases/asking/context');
  await closeContext(context());
  for (const name of Object.keys(fresh.env)) process.env[name] = before[name];
  for (const name of Object.keys(process.env)) if (before[name] === undefined) delete process.env[name];
  return answers;
}

type Handler = (request: Request, route: { params: Promise<Record<string, string>> }) => Promise<Response>;

/** An answer without what is of its moment alone. */
async function textOf(response: Response): Promise<string> {
  let text = '';
  const reader = response.body?.getReader();
  for (let next = await reader?.read(); next && !next.done; next = await reader?.read())
    text += typeof next.value === 'string' ? next.value : Buffer.from(next.value).toString('utf8');
  // Of several answers each comes when it is there.
  if (response.headers.get('content-type') === 'application/x-ndjson') text = text.split('\n').sort().join('\n');
  return text.replace(/\d{4}-\d\d-\d\dT[\d:.]+Z/g, 'then').replace(/"digest":"[0-9a-f]{64}"/g, '"digest":"…"');
}

const worlds: Fresh[] = [];
const answers: Map<string, string>[] = [];
beforeAll(async () => {
  for (const outside of WORLDS) {
    const fresh = await freshInstallation();
    worlds.push(fresh);
    answers.push(await crawl(fresh, outside));
  }
}, 600_000);
afterAll(async () => {
  for (const fresh of worlds) await fresh.close();
});

test('every route that there is was asked', () => {
  const routesIn = (folder: string): string[] =>
    readdirSync(folder, { withFileTypes: true }).flatMap((e) =>
      e.isDirectory() ? routesIn(join(folder, e.name)) : e.name === 'route.ts' ? [folder] : [],
    );
  const paths = new Set(ROUTES.map((r) => join('app/api/v1', r.path.replace(/\{(\w+)\}/g, '[$1]'))));
  expect(routesIn('app/api/v1').filter((folder) => !paths.has(folder))).toEqual([]);
  expect(Object.keys(TRIED).sort()).toEqual(ROUTES.map((r) => r.name).sort());
  expect(answers[0]?.size).toBeGreaterThan(800);
});

test('what is outside a grant has no word, no amount and no count in any answer to its viewer', () => {
  const [one, other] = answers as [Map<string, string>, Map<string, string>];
  const differs = [...one].filter(([asked, answer]) => other.get(asked) !== answer).map(([asked]) => asked);
  const named = [...one]
    .filter(([asked, answer]) => NOT_TOLD.test(answer) && !NOT_TOLD.test(asked))
    .map(([asked]) => asked);
  const shown = (asked: string) => ({
    asked,
    one: one.get(asked)?.slice(0, 600),
    other: other.get(asked)?.slice(0, 600),
  });
  // One of each route is enough to be told by.
  const byRoute = new Map([...differs, ...named].reverse().map((asked) => [asked.split(' {')[0], asked]));
  expect([...byRoute.values()].map(shown)).toEqual([]);
});

test('nothing is answered with a fault, and what is within the grant is answered', () => {
  const [one] = answers as [Map<string, string>];
  expect([...one].filter(([, answer]) => answer.startsWith('5')).map(([asked, a]) => [asked, a.slice(0, 200)])).toEqual(
    [],
  );
  const total = one.get('GET /totals {} ?entity=ONE&from=2027.01&to=2027.03 ') ?? '';
  expect(JSON.parse(total.slice(4)).total).toMatchObject({ movement: '200.00', count: 3 });
});
