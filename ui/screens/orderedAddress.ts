/** Parameters in the order in which the server writes an address, so that the same figure has the same one. */
export function orderedAddress(params: URLSearchParams): string {
  const found = new URLSearchParams();
  for (const value of params.getAll('entity')) found.append('entity', value);
  found.set('accounts', params.get('accounts') ?? '');
  for (const [name, value] of params) if (name !== 'entity' && name !== 'accounts' && name !== 'load') found.append(name, value);
  return found.toString();
}
