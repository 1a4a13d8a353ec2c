export async function bench(_lines: number, _say: (text: string) => void): Promise<void> {}
