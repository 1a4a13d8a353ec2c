/** A set with one thing in it or not, as a tick says. */
export function toggled<Item>(items: ReadonlySet<Item>, item: Item, on: boolean): Set<Item> {
  const next = new Set(items);
  if (on) next.add(item);
  else next.delete(item);
  return next;
}
