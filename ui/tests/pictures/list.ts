/** The pictures of a figure's lines, by how their addresses name them. */
export const PICTURES = {
  entered: 'When entries are made',
  months: 'Months of accounts',
  people: 'Who posts where',
  digits: 'First digits',
  sizes: 'Sizes at a limit',
  numbers: 'Missing numbers',
} as const;
export type Picture = keyof typeof PICTURES;

export const isPicture = (name: string): name is Picture => Object.hasOwn(PICTURES, name);

/** The lines of a part of a picture: those of the figure with more asked of them. */
export function linesAt(address: string, more: Readonly<Record<string, string>>): string {
  const scope = new URLSearchParams(address);
  for (const [name, value] of Object.entries(more)) {
    if (name === 'from' || name === 'to') scope.delete('window');
    scope.set(name, value);
  }
  return `/lines?${scope}`;
}

export const percent = (share: number): string => `${(share * 100).toFixed(1)} %`;
