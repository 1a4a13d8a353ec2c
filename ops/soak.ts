/** Placeholder so that the command file can be typed while it grows. */
export const soak = async (_say: (text: string) => void): Promise<number> => 0;
