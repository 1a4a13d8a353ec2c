/**
 * The captions that the application itself puts on statements, in other languages, in the order of CAPTIONS. They are
 * usual words of the trade in each language, from memory, with no source; what a chart names is in the chart's own
 * words.
 */
const CAPTIONS = [
  ...['Income statement', 'Balance sheet', 'Cash flow'],
  ...['Income', 'Total income', 'Cost of sales', 'Total cost of sales', 'Gross profit'],
  ...['Expenses', 'Total expenses', 'Total other expenses', 'Operating expenses', 'Operating result'],
  ...['Finance and tax', 'Result'],
  ...['Assets', 'Total assets', 'Liabilities', 'Total liabilities'],
  ...[
    'Equity',
    'Equity before the result',
    'Total equity',
    'Result of the year so far',
    'Total liabilities and equity',
  ],
  ...['Other', 'Intercompany that does not cancel', 'Translation difference'],
  ...['From operating activities', 'From investing activities', 'From financing activities', 'Not classified'],
  ...['Change in cash', 'Cash at the beginning', 'Cash at the end', 'What exchange rates did'],
] as const;

const NORWEGIAN = [
  ...['Resultatregnskap', 'Balanse', 'Kontantstrøm'],
  ...['Inntekter', 'Sum inntekter', 'Varekostnad', 'Sum varekostnad', 'Bruttofortjeneste'],
  ...['Kostnader', 'Sum kostnader', 'Sum andre kostnader', 'Driftskostnader', 'Driftsresultat'],
  ...['Finans og skatt', 'Resultat'],
  ...['Eiendeler', 'Sum eiendeler', 'Gjeld', 'Sum gjeld'],
  ...[
    'Egenkapital',
    'Egenkapital før resultatet',
    'Sum egenkapital',
    'Resultat hittil i år',
    'Sum gjeld og egenkapital',
  ],
  ...['Annet', 'Konserninternt som ikke går opp', 'Omregningsdifferanse'],
  ...['Fra driften', 'Fra investeringer', 'Fra finansiering', 'Ikke klassifisert'],
  ...['Endring i kontanter', 'Kontanter ved begynnelsen', 'Kontanter ved slutten', 'Valutakurseffekt'],
];

const GERMAN = [
  ...['Gewinn- und Verlustrechnung', 'Bilanz', 'Kapitalflussrechnung'],
  ...['Erträge', 'Summe Erträge', 'Umsatzkosten', 'Summe Umsatzkosten', 'Bruttoergebnis'],
  ...['Aufwendungen', 'Summe Aufwendungen', 'Summe übrige Aufwendungen'],
  ...['Betriebliche Aufwendungen', 'Betriebsergebnis'],
  ...['Finanzen und Steuern', 'Ergebnis'],
  ...['Vermögenswerte', 'Summe Vermögenswerte', 'Schulden', 'Summe Schulden'],
  ...['Eigenkapital', 'Eigenkapital vor Ergebnis', 'Summe Eigenkapital'],
  ...['Ergebnis des laufenden Jahres', 'Summe Schulden und Eigenkapital'],
  ...['Sonstiges', 'Konzerninternes, das nicht aufgeht', 'Währungsumrechnungsdifferenz'],
  ...['Aus betrieblicher Tätigkeit', 'Aus Investitionstätigkeit', 'Aus Finanzierungstätigkeit', 'Nicht zugeordnet'],
  ...['Veränderung der Zahlungsmittel', 'Zahlungsmittel am Anfang', 'Zahlungsmittel am Ende'],
  ...['Wechselkursbedingte Veränderung'],
];

const FRENCH = [
  ...['Compte de résultat', 'Bilan', 'Flux de trésorerie'],
  ...['Produits', 'Total des produits', 'Coût des ventes', 'Total du coût des ventes', 'Marge brute'],
  ...['Charges', 'Total des charges', 'Total des autres charges'],
  ...['Charges d’exploitation', 'Résultat d’exploitation'],
  ...['Éléments financiers et impôts', 'Résultat'],
  ...['Actif', 'Total de l’actif', 'Dettes', 'Total des dettes'],
  ...['Capitaux propres', 'Capitaux propres avant résultat', 'Total des capitaux propres'],
  ...['Résultat de l’exercice en cours', 'Total des dettes et des capitaux propres'],
  ...['Autres', 'Intragroupe non soldé', 'Écart de conversion'],
  ...['Des activités d’exploitation', 'Des activités d’investissement', 'Des activités de financement', 'Non classé'],
  ...['Variation de la trésorerie', 'Trésorerie à l’ouverture', 'Trésorerie à la clôture'],
  ...['Effet des taux de change'],
];

const wordsOf = (said: readonly string[]): ReadonlyMap<string, string> =>
  new Map(CAPTIONS.map((caption, i) => [caption, said[i] ?? caption]));

/** By ISO 639 code. */
const SPOKEN: ReadonlyMap<string, ReadonlyMap<string, string>> = new Map([
  ['nb', wordsOf(NORWEGIAN)],
  ['no', wordsOf(NORWEGIAN)],
  ['de', wordsOf(GERMAN)],
  ['fr', wordsOf(FRENCH)],
]);

/** A caption in a language, or as it stands where that language or caption is not known. */
export const captionIn = (language: string, caption: string): string => SPOKEN.get(language)?.get(caption) ?? caption;
