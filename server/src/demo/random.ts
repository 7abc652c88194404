/** Draws numbers that are the same for the same seed (mulberry32). */
export class Random {
  constructor(private state: number) {}

  /** From 0, up to but not including 1. */
  unit(): number {
    this.state = (this.state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  }

  /** A whole number from `low` to `high`, both included. */
  int(low: number, high: number): number {
    return low + Math.floor(this.unit() * (high - low + 1));
  }

  /** True with this likelihood. */
  chance(likelihood: number): boolean {
    return this.unit() < likelihood;
  }

  pick<T>(from: readonly T[]): T {
    return from[Math.floor(this.unit() * from.length)];
  }

  /** One of the keys, each as likely as its weight. */
  weighted<K extends string>(weights: Readonly<Record<K, number>>): K {
    const entries = Object.entries(weights) as [K, number][];
    let left = this.unit() * entries.reduce((sum, [, weight]) => sum + weight, 0);
    for (const [key, weight] of entries) {
      left -= weight;
      if (left < 0) return key;
    }
    return entries[entries.length - 1][0];
  }

  /** Around 1, always positive, skewed to the right: how durations and prices spread. */
  spread(width: number): number {
    const normal = Math.sqrt(-2 * Math.log(1 - this.unit())) * Math.cos(2 * Math.PI * this.unit());
    return Math.exp(normal * width);
  }
}
