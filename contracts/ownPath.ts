/**
 * The path that an address leads to, if it leads to a page of this installation; else null. An address is taken as a
 * browser takes it, which reads a backslash as a slash, and leaves out tabs and line feeds.
 */
export function ownPathOf(address: unknown): string | null {
  const here = 'http://screen.invalid';
  if (typeof address !== 'string' || !address.startsWith('/') || !URL.canParse(address, here)) return null;
  const url = new URL(address, here);
  return url.origin === here && !url.pathname.startsWith('//') ? `${url.pathname}${url.search}${url.hash}` : null;
}
