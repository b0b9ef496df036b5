/** A seeded source of numbers (mulberry32): the same seed gives the same package, everywhere. */
export class Random {
  private state: number;

  constructor(seed: number) {
    this.state = seed >>> 0;
  }

  /** Uniform in [0, 1). */
  next(): number {
    this.state = (this.state + 0x6d2b79f5) >>> 0;
    let t = this.state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  }

  between(low: number, high: number): number {
    return low + (high - low) * this.next();
  }

  integer(low: number, high: number): number {
    return Math.floor(this.between(low, high + 1));
  }

  pick<T>(from: readonly T[]): T {
    return from[Math.floor(this.next() * from.length)]!;
  }
}
