/** Loads that wait, or that a stopped server left in the middle, are taken up as soon as the server is there. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs' || !process.env.DATABASE_URL) return;
  const { context } = await import('@/cases/context');
  const { runConnections } = await import('@/cases/connections');
  const { runLoads } = await import('@/cases/loads');
  const EVERY_MS = 2_000;
  const look = async (): Promise<void> => {
    try {
      // A source that is slow to answer does not keep loads waiting.
      await Promise.all([runConnections(context()), runLoads(context())]);
    } catch (error) {
      console.error(error);
    }
    setTimeout(look, EVERY_MS).unref();
  };
  void look();
}
