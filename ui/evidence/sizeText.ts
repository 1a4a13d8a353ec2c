/** Bytes as people say them. */
export const sizeText = (bytes: number): string =>
  bytes >= 1024 ** 2 ? `${(bytes / 1024 ** 2).toFixed(1)} MB` : `${Math.max(1, Math.round(bytes / 1024))} kB`;
