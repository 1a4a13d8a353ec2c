export interface Company {
  code: string;
  currency: string;
}

/** The address of the lines of some companies in a window; of books in several currencies said in that of the first. */
export function scopeOf(codes: readonly string[], window: string, entities: readonly Company[]): URLSearchParams {
  const scope = new URLSearchParams(codes.map((code) => ['entity', code]));
  scope.set('window', window);
  const currencies = new Set(entities.filter((e) => codes.includes(e.code)).map((e) => e.currency));
  const [first] = currencies;
  if (currencies.size > 1 && first) scope.set('in', first);
  return scope;
}
