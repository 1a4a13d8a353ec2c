/** A small seeded generator of numbers in [0, 1) (mulberry32), so that the demo world is the same every time. */
export class Random {
  constructor(private state: number) {}

  next(): number {
    this.state = (this.state + 0x6d2b79f5) | 0;
    let t = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  }

  /** A whole number from low to high, both included. */
  whole(low: number, high: number): number {
    return low + Math.floor(this.next() * (high - low + 1));
  }

  pick<T>(items: readonly T[]): T {
    return items[this.whole(0, items.length - 1)] as T;
  }

  /** An amount in minor units around a middle, give or take a share of it. */
  around(middle: number, share: number): number {
    return Math.round(middle * (1 + (this.next() * 2 - 1) * share));
  }
}
