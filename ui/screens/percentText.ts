/** A share as the server rounded it; negative ones in brackets, as amounts are. */
export const percentText = (value: string): string => (value.startsWith('-') ? `(${value.slice(1)})` : value);
