import { createRandom } from '../../core/synth/random';

/** Draws from one seeded stream. */
export class Chance {
  private readonly random: () => number;
  constructor(seed: number) {
    this.random = createRandom(seed);
  }
  /** [0, 1) */
  unit(): number {
    return this.random();
  }
  yes(probability: number): boolean {
    return this.random() < probability;
  }
  between(low: number, high: number): number {
    return low + (high - low) * this.random();
  }
  /** Even in the logarithm, for times and frequencies. */
  ratio(low: number, high: number): number {
    return low * (high / low) ** this.random();
  }
  whole(low: number, high: number): number {
    return low + Math.floor(this.random() * (high - low + 1));
  }
  pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.random() * list.length)];
  }
  weighted<T>(list: readonly (readonly [T, number])[]): T {
    let at = this.random() * list.reduce((sum, [, weight]) => sum + weight, 0);
    for (const [value, weight] of list) {
      at -= weight;
      if (at < 0) return value;
    }
    return (list.findLast(([, weight]) => weight > 0) ?? list[0])[0];
  }
  /** Normal, by Box and Muller. */
  normal(deviation: number): number {
    return deviation * Math.sqrt(-2 * Math.log(1 - this.random())) * Math.cos(2 * Math.PI * this.random());
  }
  seed(): number {
    return Math.floor(this.random() * 2 ** 31);
  }
}
