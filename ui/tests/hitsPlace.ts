/** The sheet of what a run found: all of it, of one test, or of one group. */
export function hitsPlace(
  run: { id: number; subject: string },
  more: { test?: string; by?: string; key?: string; state?: string } = {},
): string {
  const params = new URLSearchParams(run.subject.replace(/^figure:/, ''));
  params.set('run', String(run.id));
  for (const [name, value] of Object.entries(more)) params.set(name, value);
  return `/hits?${params}`;
}
