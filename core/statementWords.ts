/**
 * The captions that the application itself puts on statements, with what they are in other languages: usual words of the
 * trade in each, from memory, with no source. What a chart names is in the chart's own words.
 */
const CAPTIONS: readonly (readonly [english: string, norwegian: string, german: string, french: string])[] = [
  ['Income statement', 'Resultatregnskap', 'Gewinn- und Verlustrechnung', 'Compte de résultat'],
  ['Balance sheet', 'Balanse', 'Bilanz', 'Bilan'],
  ['Cash flow', 'Kontantstrøm', 'Kapitalflussrechnung', 'Flux de trésorerie'],
  ['Income', 'Inntekter', 'Erträge', 'Produits'],
  ['Total income', 'Sum inntekter', 'Summe Erträge', 'Total des produits'],
  ['Cost of sales', 'Varekostnad', 'Umsatzkosten', 'Coût des ventes'],
  ['Total cost of sales', 'Sum varekostnad', 'Summe Umsatzkosten', 'Total du coût des ventes'],
  ['Gross profit', 'Bruttofortjeneste', 'Bruttoergebnis', 'Marge brute'],
  ['Expenses', 'Kostnader', 'Aufwendungen', 'Charges'],
  ['Total expenses', 'Sum kostnader', 'Summe Aufwendungen', 'Total des charges'],
  ['Total other expenses', 'Sum andre kostnader', 'Summe übrige Aufwendungen', 'Total des autres charges'],
  ['Operating expenses', 'Driftskostnader', 'Betriebliche Aufwendungen', 'Charges d’exploitation'],
  ['Operating result', 'Driftsresultat', 'Betriebsergebnis', 'Résultat d’exploitation'],
  ['Finance and tax', 'Finans og skatt', 'Finanzen und Steuern', 'Éléments financiers et impôts'],
  ['Result', 'Resultat', 'Ergebnis', 'Résultat'],
  ['Assets', 'Eiendeler', 'Vermögenswerte', 'Actif'],
  ['Total assets', 'Sum eiendeler', 'Summe Vermögenswerte', 'Total de l’actif'],
  ['Liabilities', 'Gjeld', 'Schulden', 'Dettes'],
  ['Total liabilities', 'Sum gjeld', 'Summe Schulden', 'Total des dettes'],
  ['Equity', 'Egenkapital', 'Eigenkapital', 'Capitaux propres'],
  [
    'Equity before the result',
    'Egenkapital før resultatet',
    'Eigenkapital vor Ergebnis',
    'Capitaux propres avant résultat',
  ],
  ['Total equity', 'Sum egenkapital', 'Summe Eigenkapital', 'Total des capitaux propres'],
  [
    'Result of the year so far',
    'Resultat hittil i år',
    'Ergebnis des laufenden Jahres',
    'Résultat de l’exercice en cours',
  ],
  [
    'Total liabilities and equity',
    'Sum gjeld og egenkapital',
    'Summe Schulden und Eigenkapital',
    'Total des dettes et des capitaux propres',
  ],
  ['Other', 'Annet', 'Sonstiges', 'Autres'],
  [
    'Intercompany that does not cancel',
    'Konserninternt som ikke går opp',
    'Konzerninternes, das nicht aufgeht',
    'Intragroupe non soldé',
  ],
  ['Translation difference', 'Omregningsdifferanse', 'Währungsumrechnungsdifferenz', 'Écart de conversion'],
  ['From operating activities', 'Fra driften', 'Aus betrieblicher Tätigkeit', 'Des activités d’exploitation'],
  ['From investing activities', 'Fra investeringer', 'Aus Investitionstätigkeit', 'Des activités d’investissement'],
  ['From financing activities', 'Fra finansiering', 'Aus Finanzierungstätigkeit', 'Des activités de financement'],
  ['Not classified', 'Ikke klassifisert', 'Nicht zugeordnet', 'Non classé'],
  ['Change in cash', 'Endring i kontanter', 'Veränderung der Zahlungsmittel', 'Variation de la trésorerie'],
  ['Cash at the beginning', 'Kontanter ved begynnelsen', 'Zahlungsmittel am Anfang', 'Trésorerie à l’ouverture'],
  ['Cash at the end', 'Kontanter ved slutten', 'Zahlungsmittel am Ende', 'Trésorerie à la clôture'],
  ['What exchange rates did', 'Valutakurseffekt', 'Wechselkursbedingte Veränderung', 'Effet des taux de change'],
  // Heads of columns; what they are of is put in between the braces (core/columns).
  ['This window', 'Denne perioden', 'Dieser Zeitraum', 'Cette période'],
  ['Window before', 'Perioden før', 'Zeitraum davor', 'Période précédente'],
  ['Year before', 'Året før', 'Vorjahr', 'Exercice précédent'],
  ['Year to date', 'Hittil i år', 'Jahr bis heute', 'Cumul de l’exercice'],
  ['Year to date, year before', 'Hittil i år, året før', 'Vorjahr bis zum selben Tag', 'Cumul de l’exercice précédent'],
  ['Last fiscal year', 'Forrige regnskapsår', 'Letztes Geschäftsjahr', 'Exercice clos'],
  ['Trailing twelve periods', 'Siste tolv perioder', 'Letzte zwölf Perioden', 'Douze dernières périodes'],
  ['In {}', 'I {}', 'In {}', 'En {}'],
  ['Budget {}', 'Budsjett {}', 'Plan {}', 'Budget {}'],
  ['Budget {}, year to date', 'Budsjett {}, hittil i år', 'Plan {}, Jahr bis heute', 'Budget {}, cumul'],
  ['Change from {}', 'Endring fra {}', 'Veränderung zu: {}', 'Variation, {}'],
  ['Change from {}, %', 'Endring fra {}, %', 'Veränderung zu: {}, %', 'Variation, {}, %'],
  ['Variance from {}', 'Avvik fra {}', 'Abweichung von: {}', 'Écart, {}'],
  ['Share, %', 'Andel, %', 'Anteil, %', 'Part, %'],
  ['Share {}, %', 'Andel {}, %', 'Anteil {}, %', 'Part {}, %'],
  ['Unposted', 'Ikke bokført', 'Nicht gebucht', 'Non comptabilisé'],
  ['Adjustment entries', 'Årsoppgjørsposteringer', 'Abschlussbuchungen', 'Écritures d’inventaire'],
  ['Committed now', 'Bestilt nå', 'Bestellt, jetzt fällig', 'Engagé, échu'],
  ['Committed later', 'Bestilt senere', 'Bestellt, später fällig', 'Engagé, à échoir'],
  ['Committed now and later', 'Bestilt i alt', 'Bestellt insgesamt', 'Engagé au total'],
];

/** In which place of a row a language is, by ISO 639 code. */
const PLACES: Readonly<Record<string, 1 | 2 | 3>> = { nb: 1, no: 1, de: 2, fr: 3 };

/** A caption in a language, or as it stands where that language or caption is not known. */
export function captionIn(language: string, caption: string): string {
  const place = PLACES[language];
  const said = CAPTIONS.find(([english]) => english === caption);
  return place === undefined || said === undefined ? caption : said[place];
}
