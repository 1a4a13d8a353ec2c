/** Where the server that draws pages says whose they are (store/asking); the two are built apart. */
const KEY = Symbol.for('just-thread.asking');

/** In which language and country whoever reads writes numbers: in a browser its own, on the server as the browser says. */
export function readerLocale(): string | undefined {
  if (typeof window !== 'undefined') return undefined;
  const shared = globalThis as unknown as Record<symbol, { getStore(): { locale?: string } | undefined } | undefined>;
  return shared[KEY]?.getStore()?.locale;
}
