/** Where a place of this installation is reached from outside. @param place begins with / */
export const publicAddress = (place: string): string =>
  `${(process.env.PUBLIC_URL ?? `http://localhost:${process.env.PORT ?? 3000}`).replace(/\/+$/, '')}${place}`;
