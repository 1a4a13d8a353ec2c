/** What a note or a pin is about, for a figure of these parameters; not of a load, since it is asked again of newer ones. */
export function figureSubject(params: URLSearchParams): string {
  const found = new URLSearchParams();
  for (const [name, value] of params) if (name !== 'load') found.append(name, value);
  return `figure:${found}`;
}

/** Subjects of the same figure have the same key, in whatever order their parameters were put. */
export function subjectKey(subject: string): string {
  const [, address] = /^figure:(.*)$/.exec(subject) ?? [];
  if (address === undefined) return subject;
  const params = [...new URLSearchParams(address)].filter(([, value]) => value !== '');
  return `figure:${new URLSearchParams(params.sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0)))}`;
}
