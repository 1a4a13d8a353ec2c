/** Raised where too many are ahead, or nobody waits for the answer any more. */
export class NoTurn extends Error {
  constructor(readonly why: 'crowded' | 'gone') {
    super(why === 'gone' ? 'nobody waits for this answer any more' : 'too many heavy questions are being answered');
    this.name = 'NoTurn';
  }
}

interface Waiting {
  person: string;
  go(): void;
}

/**
 * A few places for heavy work, shared out fairly: whoever has least under way comes next, so that a person who asks twenty
 * things at once waits for their own, and nobody else does.
 */
export class FairShare {
  private readonly running = new Map<string, number>();
  private waiting: Waiting[] = [];
  private free: number;

  /**
   * @param places how many run at once
   * @param each how many of them one person may have
   * @param waitMs whoever has not had a turn by then is refused
   */
  constructor(
    places: number,
    private readonly each: number,
    private readonly waitMs: number,
  ) {
    this.free = places;
  }

  async run<T>(person: string, signal: AbortSignal | null, work: () => Promise<T>): Promise<T> {
    await this.turn(person, signal);
    try {
      return await work();
    } finally {
      this.free += 1;
      this.running.set(person, this.of(person) - 1);
      if (this.of(person) === 0) this.running.delete(person);
      this.next();
    }
  }

  private of(person: string): number {
    return this.running.get(person) ?? 0;
  }

  private turn(person: string, signal: AbortSignal | null): Promise<void> {
    return new Promise((resolve, reject) => {
      if (signal?.aborted) return reject(new NoTurn('gone'));
      const release = (act: () => void): void => {
        clearTimeout(late);
        signal?.removeEventListener('abort', gone);
        this.waiting = this.waiting.filter((w) => w !== me);
        act();
      };
      const me: Waiting = { person, go: () => release(resolve) };
      const gone = (): void => release(() => reject(new NoTurn('gone')));
      const late = setTimeout(() => release(() => reject(new NoTurn('crowded'))), this.waitMs);
      signal?.addEventListener('abort', gone, { once: true });
      this.waiting.push(me);
      this.next();
    });
  }

  private next(): void {
    while (this.free > 0) {
      let best: Waiting | null = null;
      for (const one of this.waiting)
        if (this.of(one.person) < this.each && (best === null || this.of(one.person) < this.of(best.person)))
          best = one;
      if (!best) return;
      this.free -= 1;
      this.running.set(best.person, this.of(best.person) + 1);
      best.go();
    }
  }
}
