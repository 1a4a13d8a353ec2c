/** The number at the end of an entry's name, and the series that it counts in: "PI-KSF-0090" → ["PI-KSF-", 90]. */
function numbered(entry: string): [series: string, number: bigint] | null {
  const match = /^(.*?)(\d+)$/.exec(entry);
  return match ? [match[1] as string, BigInt(match[2] as string)] : null;
}

/**
 * Lines whose place by date and by entry number disagree (method.md §8): within its series, an entry that is between
 * two that follow one another, but whose number does not. The entries on both sides of it are not marked for it.
 * @param entries entry of each line, in ledger order
 */
export function outOfOrder(entries: readonly string[]): boolean[] {
  const series = new Map<string, { entry: string; number: bigint }[]>();
  for (const entry of entries) {
    const [name, number] = numbered(entry) ?? [];
    if (name === undefined || number === undefined) continue;
    const held = series.get(name) ?? [];
    series.set(name, held);
    if (held[held.length - 1]?.entry !== entry) held.push({ entry, number });
  }
  const marked = new Set<string>();
  for (const held of series.values()) {
    for (let i = 1; i < held.length - 1; i++) {
      const [before, here, after] = [held[i - 1], held[i], held[i + 1]] as [
        (typeof held)[0],
        (typeof held)[0],
        (typeof held)[0],
      ];
      if (before.number <= after.number && (here.number < before.number || here.number > after.number))
        marked.add(here.entry);
    }
  }
  return entries.map((entry) => marked.has(entry));
}
