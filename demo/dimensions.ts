/** Dimensions of the demo group: dimension, code, parent, name. */
const COST_CENTRES: [string, string, string][] = [
  ['OPS', '', 'Operations'],
  ['DECK', 'OPS', 'Deck'],
  ...['Maren', 'Solan', 'Tern', 'Skua', 'Petrel', 'Gannet', 'Fulmar'].map((v): [string, string, string] => [
    `DK-${v.slice(0, 3).toUpperCase()}`,
    'DECK',
    `Deck ${v}`,
  ]),
  ['ENG', 'OPS', 'Engine'],
  ...['Maren', 'Solan', 'Tern', 'Skua', 'Petrel', 'Gannet', 'Fulmar'].map((v): [string, string, string] => [
    `EN-${v.slice(0, 3).toUpperCase()}`,
    'ENG',
    `Engine ${v}`,
  ]),
  ['SHORE', 'OPS', 'Shore crew'],
  ['SH-HAR', 'SHORE', 'Harbour crew Harrowick'],
  ['SH-ISL', 'SHORE', 'Harbour crew islands'],
  ['SH-MNT', 'SHORE', 'Maintenance gang'],
  ['COM', '', 'Commercial'],
  ['COM-TKT', 'COM', 'Ticketing'],
  ['COM-FRT', 'COM', 'Freight desk'],
  ['COM-CAF', 'COM', 'Cafés on board'],
  ['COM-MKT', 'COM', 'Marketing'],
  ['TRM', '', 'Terminals'],
  ['TRM-HAR', 'TRM', 'Terminal Harrowick'],
  ['TRM-BRE', 'TRM', 'Terminal Brenna'],
  ['TRM-TOL', 'TRM', 'Terminal Tolsey'],
  ['TRM-LIN', 'TRM', 'Terminal Lindra'],
  ['TRM-MAR', 'TRM', 'Terminal Marrok'],
  ['YARD', '', 'Yard'],
  ['YD-DOCK', 'YARD', 'Dry docks'],
  ['YD-STEEL', 'YARD', 'Steel shop'],
  ['YD-ENG', 'YARD', 'Engine shop'],
  ['YD-STORE', 'YARD', 'Yard store'],
  ['ADM', '', 'Administration'],
  ['ADM-FIN', 'ADM', 'Finance'],
  ['ADM-HR', 'ADM', 'People'],
  ['ADM-IT', 'ADM', 'Systems'],
  ['ADM-MD', 'ADM', 'Direction'],
  ['ADM-SAF', 'ADM', 'Safety'],
  ['ADM-OLD', 'ADM', 'Old booking office'],
];

export const VESSELS = ['MAREN', 'SOLAN', 'TERN', 'SKUA', 'PETREL', 'GANNET', 'FULMAR'] as const;
export type Vessel = (typeof VESSELS)[number];

/** Route code, name, the vessel that usually sails it, and fares a day in pence in an average month. */
export const ROUTES: readonly { code: string; name: string; vessel: Vessel; fares: number }[] = [
  { code: 'R1', name: 'Harrowick–Brenna', vessel: 'MAREN', fares: 1_450_000 },
  { code: 'R2', name: 'Harrowick–Tolsey', vessel: 'SOLAN', fares: 1_120_000 },
  { code: 'R3', name: 'Harrowick–Lindra', vessel: 'TERN', fares: 930_000 },
  { code: 'R4', name: 'Harrowick–Marrok', vessel: 'SKUA', fares: 760_000 },
  { code: 'R5', name: 'Harrowick–Skarvoy', vessel: 'PETREL', fares: 540_000 },
  { code: 'R6', name: 'Brenna–Tolsey', vessel: 'GANNET', fares: 310_000 },
  { code: 'R7', name: 'Tolsey–Lindra', vessel: 'GANNET', fares: 240_000 },
  { code: 'R8', name: 'Lindra–Marrok', vessel: 'FULMAR', fares: 210_000 },
  { code: 'R9', name: 'Marrok–Skarvoy', vessel: 'FULMAR', fares: 150_000 },
];

const PROJECTS = [
  ...['Maren', 'Solan', 'Tern', 'Skua', 'Petrel', 'Gannet', 'Fulmar'].flatMap((v): [string, string][] =>
    [2024, 2025, 2026].map((y) => [`DD-${v.slice(0, 3).toUpperCase()}-${y % 100}`, `Dry-docking ${v} ${y}`]),
  ),
  ['LINK-BRE', 'New linkspan Brenna'],
  ['LINK-TOL', 'Linkspan renewal Tolsey'],
  ['TICKET', 'Ticketing renewal'],
  ['HYBRID', 'Hybrid drive study'],
  ['QUAY-LIN', 'Quay lighting Lindra'],
  ['SHOP-HAR', 'Shop refit Harrowick'],
  ['CRANE', 'Yard crane'],
  ['ROOF', 'Slip hall roof'],
] as [string, string][];

export const FUNDS: readonly [string, string][] = [
  ['G-BRE', 'Lifeline grant Brenna'],
  ['G-TOL', 'Lifeline grant Tolsey'],
  ['G-LIN', 'Lifeline grant Lindra'],
  ['G-SKA', 'Lifeline grant Skarvoy'],
  ['COMM', 'Community fund'],
  ['UNR', 'Unrestricted'],
];

/** Rows of the dimensions file. */
export function demoDimensions(): { dimension: string; code: string; name: string; parent: string }[] {
  const rows = [
    ...[
      ['costcentre', 'Cost centre'],
      ['vessel', 'Vessel'],
      ['route', 'Route'],
      ['project', 'Project'],
      ['fund', 'Fund'],
      ['partner', 'Partner entity'],
    ].map(([dimension = '', name = '']) => ({ dimension, code: '', name, parent: '' })),
    ...COST_CENTRES.map(([code, parent, name]) => ({ dimension: 'costcentre', code, name, parent })),
    { dimension: 'vessel', code: 'FLEET', name: 'Fleet', parent: '' },
    ...VESSELS.map((code) => ({
      dimension: 'vessel',
      code,
      name: code.charAt(0) + code.slice(1).toLowerCase(),
      parent: 'FLEET',
    })),
    { dimension: 'vessel', code: 'POOL', name: 'Fleet pool', parent: 'FLEET' },
    ...ROUTES.map(({ code, name }) => ({ dimension: 'route', code, name, parent: '' })),
    { dimension: 'route', code: 'R10', name: 'Skarvoy–Lindra by request', parent: '' },
    ...PROJECTS.map(([code, name]) => ({ dimension: 'project', code, name, parent: '' })),
    ...FUNDS.map(([code, name]) => ({ dimension: 'fund', code, name, parent: '' })),
    ...[
      ['KSF', 'Kestrel Sound Ferries Ltd'],
      ['STL', 'Sound Terminals Ltd'],
      ['NHS', 'Nordholm Slip AS'],
    ].map(([code = '', name = '']) => ({ dimension: 'partner', code, name, parent: '' })),
  ];
  return rows;
}
