/** The place that the first screen opens with. */
const FIRST = '/trial-balance';

/**
 * The path that an address leads to, if it leads to a page of this installation; else the first screen. An address is
 * taken as a browser takes it, which reads a backslash as a slash, and leaves out tabs and line feeds.
 */
export function ownPath(to: unknown): string {
  const here = 'http://screen.invalid';
  if (typeof to !== 'string' || !to.startsWith('/') || !URL.canParse(to, here)) return FIRST;
  const url = new URL(to, here);
  return url.origin === here && !url.pathname.startsWith('//') ? `${url.pathname}${url.search}${url.hash}` : FIRST;
}
