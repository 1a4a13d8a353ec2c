import type { AccountType } from '@/core/ledger';

/** An account of the group's chart: code, English and Norwegian name, and what the loader needs. */
export interface DemoAccount {
  code: string;
  name: string;
  norwegian: string;
  type: AccountType;
  parent: string;
  posting: boolean;
  flow: string;
  status: string;
  costCentre: '' | 'required' | 'forbidden';
  vessel: '' | 'required' | 'forbidden';
  group: string;
}

/** One line a node: code, English | Norwegian, and on headings the type; a posting account has four digits. */
const OUTLINE = `
1 Assets | Eiendeler : asset
11 Fixed assets | Anleggsmidler
111 Vessels and craft | Skip og fartøy : investing
1110 Vessels at cost | Skip til kostpris
1111 Vessels, depreciation | Skip, avskrivning
1112 Engines at cost | Motorer til kostpris
1113 Engines, depreciation | Motorer, avskrivning
1114 Dry-docking capitalised | Balanseført dokking
1115 Dry-docking, depreciation | Dokking, avskrivning
1116 Small craft | Småbåter
1117 Small craft, depreciation | Småbåter, avskrivning
112 Shore assets | Landanlegg : investing
1120 Terminals at cost | Terminaler til kostpris
1121 Terminals, depreciation | Terminaler, avskrivning
1122 Linkspans at cost | Fergekaier til kostpris
1123 Linkspans, depreciation | Fergekaier, avskrivning
1124 Vehicles | Kjøretøy
1125 Vehicles, depreciation | Kjøretøy, avskrivning
1126 Ticketing systems | Billettsystemer
1127 Ticketing systems, depreciation | Billettsystemer, avskrivning
1128 Slipway and cranes | Slipp og kraner
1129 Slipway and cranes, depreciation | Slipp og kraner, avskrivning
113 Work in progress | Anlegg under utførelse : investing
1130 Projects in progress | Prosjekter under arbeid
1131 Deposits on orders | Forskudd på bestillinger
12 Stock | Varelager
121 Stock held | Beholdning : operating
1210 Marine diesel in tanks | Marin diesel på tank
1211 Lubricants in store | Smøremidler på lager
1212 Spares | Reservedeler
1213 Shop goods | Butikkvarer
1214 Steel and timber | Stål og tømmer
1215 Stock provision | Nedskrivning varelager
13 Debtors | Fordringer
131 Trade debtors | Kundefordringer : operating
1310 Freight customers | Fraktkunder
1311 Charter customers | Charterkunder
1312 Yard customers | Verkstedkunder
1313 Terminal customers | Terminalkunder
1314 Doubtful debts provision | Avsetning tap på fordringer
132 Group debtors | Konsernfordringer : operating
1320 Due from Sound Terminals | Til gode hos Sound Terminals
1321 Due from Kestrel Sound Ferries | Til gode hos Kestrel Sound Ferries
1322 Due from Nordholm Slip | Til gode hos Nordholm Slip
133 Other debtors | Andre fordringer : operating
1330 Grants receivable | Tilskudd til gode
1331 Input tax | Inngående avgift
1332 Staff advances | Lønnsforskudd
1333 Insurance claims | Forsikringskrav
14 Prepayments | Forskuddsbetalinger
141 Paid ahead | Betalt på forhånd : operating
1410 Insurance prepaid | Forskuddsbetalt forsikring
1411 Leases prepaid | Forskuddsbetalt leie
1412 Licences prepaid | Forskuddsbetalte lisenser
1413 Berth rights prepaid | Forskuddsbetalte kairettigheter
15 Money | Likvide midler
151 Clearing | Oppgjørskontoer : cash
1510 Card receipts in transit | Kortoppgjør underveis
1511 Online sales in transit | Nettsalg underveis
1512 Cash in transit | Kontanter underveis
152 Bank | Bank : cash
1520 Operating account | Driftskonto
1521 Grant account | Tilskuddskonto
1522 Reserve account | Reservekonto
1523 Krone account | Kronekonto
153 Tills | Kasser : cash
1530 Till Harrowick | Kasse Harrowick
1531 Till Brenna | Kasse Brenna
1532 Till Tolsey | Kasse Tolsey
1533 Till Lindra | Kasse Lindra
1534 Till Marrok | Kasse Marrok
2 Liabilities | Gjeld : liability
21 Creditors | Leverandørgjeld
211 Trade creditors | Leverandører : operating
2110 Suppliers | Leverandører
2111 Fuel suppliers | Drivstoffleverandører
2112 Suppliers, invoices to come | Mottatt, ikke fakturert
212 Group creditors | Konserngjeld : operating
2120 Due to Sound Terminals | Skyldig Sound Terminals
2121 Due to Kestrel Sound Ferries | Skyldig Kestrel Sound Ferries
2122 Due to Nordholm Slip | Skyldig Nordholm Slip
22 Accruals | Påløpte kostnader
221 Accrued | Påløpt : operating
2190 Accruals | Påløpte kostnader
2191 Holiday pay | Feriepenger
2192 Winter lay-up accrued | Påløpt vinteropplag
2193 Audit fee accrued | Påløpt revisjonshonorar
222 Received ahead | Mottatt på forhånd : operating
2220 Tickets sold ahead | Forhåndssolgte billetter
2221 Grants received ahead | Forskuddsmottatte tilskudd
2222 Charter deposits | Charterdepositum
23 Taxes and payroll | Avgifter og lønn
231 Owed to others | Skyldig offentlig : operating
2310 Output tax | Utgående avgift
2311 Payroll tax | Skattetrekk
2312 Pension contributions owed | Skyldig pensjon
2313 Net pay owed | Skyldig lønn
24 Loans and leases | Lån og leie
241 Borrowed | Lån : financing
2410 Vessel loan | Skipslån
2411 Linkspan loan | Fergekailån
2412 Lease liabilities | Leieforpliktelser
29 Suspense | Observasjonskonto
291 Not yet settled | Ikke avklart : operating
2990 Suspense, till differences | Observasjon, kassedifferanser
2991 Suspense, bank | Observasjon, bank
2992 Old ticket vouchers | Gamle verdikort
3 Equity | Egenkapital : equity
31 Capital and reserves | Kapital og reserver
311 Capital | Kapital : financing
3110 Share capital | Aksjekapital
3111 Share premium | Overkurs
312 Reserves | Reserver : financing
3120 Retained earnings | Opptjent egenkapital
3121 Vessel renewal reserve | Fornyelsesreserve skip
3122 Community fund | Lokalfond
3123 Translation reserve | Omregningsreserve
4 Income | Inntekter : income
41 Fares | Billettinntekter
411 Passengers and vehicles | Passasjerer og kjøretøy : operating
4110 Passenger fares | Passasjerbilletter
4111 Concession fares | Honnørbilletter
4112 Car fares | Bilbilletter
4113 Coach fares | Bussbilletter
4114 Cabin and seat reservations | Lugar og setereservasjon
4115 Season tickets | Sesongkort
4116 Refunds and cancellations | Refusjoner og kanselleringer
412 On board | Om bord : operating
4120 Café sales | Kafésalg
4121 Shop sales on board | Butikksalg om bord
42 Freight | Frakt
421 Freight carried | Fraktet gods : operating
4210 Lorry freight | Lastebilfrakt
4211 Livestock freight | Husdyrfrakt
4212 Parcels | Pakker
4213 Fuel surcharge | Drivstofftillegg
43 Grants | Tilskudd
431 Lifeline grants | Rutetilskudd : operating
4310 Lifeline grant released | Inntektsført rutetilskudd
4311 Community fund grant | Tilskudd lokalfond
4312 Capital grant released | Inntektsført investeringstilskudd
44 Charters and other | Charter og annet
441 Charters | Charter : operating
4410 Charter income | Charterinntekter
4411 Event sailings | Arrangementsturer
4412 Sundry income | Diverse inntekter
45 Terminals | Terminaler
451 Terminal income | Terminalinntekter : operating
4510 Berthing dues | Kaiavgifter
4511 Berthing dues, group | Kaiavgifter, konsern
4512 Shop sales | Butikksalg
4513 Car parks | Parkering
4514 Storage | Lagring
4515 Rents | Leieinntekter
46 Yard | Verksted
461 Yard income | Verkstedinntekter : operating
4610 Docking, others | Dokking, eksterne
4611 Docking, group | Dokking, konsern
4612 Repairs, others | Reparasjoner, eksterne
4613 Materials sold | Solgt materiell
6 Running costs | Driftskostnader : expense
62 Fuel and lubricants | Drivstoff og smøremidler
621 Used on board | Forbruk om bord : operating : vessel
6210 Marine diesel | Marin diesel
6220 Lubricants | Smøremidler
6230 Shore power | Landstrøm
63 Upkeep of vessels | Vedlikehold av skip
631 Upkeep | Vedlikehold : operating : vessel
6310 Repairs and spares | Reparasjoner og deler
6320 Dry-docking | Dokking
6330 Survey and class | Besiktigelse og klasse
6340 Safety equipment | Sikkerhetsutstyr
6350 Winter lay-up | Vinteropplag
64 Harbours | Havner
641 Harbour costs | Havnekostnader : operating
6410 Harbour dues | Havneavgifter
6420 Pilotage and tugs | Los og slepebåt
6430 Berth hire | Kaileie
6440 Waste and water | Avfall og vann
65 Goods sold | Varekostnad
651 Cost of goods | Varekjøp : operating
6510 Café goods | Kafévarer
6511 Shop goods sold | Solgte butikkvarer
6512 Yard materials | Verkstedmateriell
6513 Subcontractors | Underleverandører
66 Premises | Lokaler
661 Premises costs | Lokalkostnader : operating : cc
6610 Power and heat | Strøm og varme
6611 Repairs of buildings | Vedlikehold bygg
6612 Cleaning | Renhold
6613 Business rates | Eiendomsskatt
6614 Security | Vakthold
7 People | Personal : expense
71 Pay | Lønn
711 Crew | Mannskap : operating : cc
7010 Crew pay | Mannskapslønn
7011 Crew overtime | Overtid mannskap
7012 Relief crew | Avløsermannskap
7020 Crew pension | Pensjon mannskap
7030 Crew payroll tax | Arbeidsgiveravgift mannskap
7040 Crew travel and food | Reise og kost mannskap
712 Shore | Land : operating : cc
7110 Shore crew pay | Lønn landpersonell
7111 Office pay | Kontorlønn
7112 Yard pay | Verkstedlønn
7120 Shore pension | Pensjon land
7130 Shore payroll tax | Arbeidsgiveravgift land
72 About people | Øvrig personal
721 Other people costs | Andre personalkostnader : operating : cc
7310 Training | Opplæring
7320 Work clothes | Arbeidstøy
7330 Health checks | Helsekontroller
7340 Recruiting | Rekruttering
8 Other costs | Andre kostnader : expense
81 Insurance | Forsikring
811 Insurance costs | Forsikringskostnader : operating
8110 Hull insurance | Kaskoforsikring
8111 Liability insurance | Ansvarsforsikring
8112 Buildings insurance | Bygningsforsikring
82 Administration | Administrasjon
821 Office | Kontor : operating : cc
8210 Licences and software | Lisenser og programvare
8211 Telephones and radio | Telefon og radio
8212 Stationery and post | Rekvisita og porto
8213 Card charges | Kortgebyrer
8214 Bank charges | Bankgebyrer
8215 Professional fees | Honorarer
8216 Audit fee | Revisjonshonorar
8217 Marketing | Markedsføring
8218 Travel | Reiser
8219 Bad debts | Tap på fordringer
83 Depreciation | Avskrivninger
831 Depreciation | Avskrivninger : investing
8310 Depreciation, vessels | Avskrivning skip
8311 Depreciation, shore | Avskrivning land
8312 Depreciation, dry-docking | Avskrivning dokking
8313 Depreciation, leases | Avskrivning leie
84 Leases | Leie
841 Lease costs | Leiekostnader : operating
8410 Short leases | Korttidsleie
8411 Vehicle leases | Leasing kjøretøy
85 Finance | Finans
851 Finance costs | Finanskostnader : financing
8510 Loan interest | Lånerenter
8511 Lease interest | Leierenter
8512 Currency differences | Valutadifferanser
8513 Interest received | Renteinntekter
`;

const INACTIVE = new Set(['1116', '1117', '4115', '4211', '6230']);

/** The group's chart of accounts; every company of the group uses it. */
export function demoChart(): DemoAccount[] {
  const headings: { code: string; type: AccountType; flow: string; rule: string }[] = [];
  const accounts: DemoAccount[] = [];
  for (const text of OUTLINE.trim().split('\n')) {
    const [label = '', ...flags] = text.split(' : ').map((p) => p.trim());
    const [, code = '', english = '', norwegian = ''] = /^(\d+) (.+?) \| (.+)$/.exec(label) ?? [];
    const posting = code.length === 4;
    while (!posting && (headings[headings.length - 1]?.code.length ?? 0) >= code.length) headings.pop();
    const above = headings[headings.length - 1];
    const type = (posting ? above?.type : code.length === 1 ? (flags[0] as AccountType) : above?.type) as AccountType;
    const flow = posting
      ? (above?.flow ?? '')
      : (flags.find((f) => ['operating', 'investing', 'financing', 'cash'].includes(f)) ?? '');
    const rule = posting ? (above?.rule ?? '') : (flags.find((f) => f === 'vessel' || f === 'cc') ?? '');
    if (!posting) headings.push({ code, type, flow, rule });
    accounts.push({
      code,
      name: english,
      norwegian,
      type,
      posting,
      flow,
      parent: above?.code ?? '',
      status: INACTIVE.has(code) ? 'inactive' : 'active',
      costCentre: !posting ? '' : rule === 'cc' ? 'required' : type === 'asset' || type === 'equity' ? 'forbidden' : '',
      vessel: !posting ? '' : rule === 'vessel' ? 'required' : type === 'equity' ? 'forbidden' : '',
      group: code.startsWith('62') || code.startsWith('63') || code.startsWith('64') ? 'Vessel running' : '',
    });
  }
  return accounts;
}
