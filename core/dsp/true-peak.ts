const taps = 12;

/** 12 taps at each of the three positions between two frames: a windowed sinc (four times oversampled, as in ITU-R BS.1770-4, annex 2). */
export const betweenFrames: readonly Float64Array[] = [0.25, 0.5, 0.75].map((offset) =>
  Float64Array.from({ length: taps }, (_, k) => {
    const x = k - 5 - offset;
    return (Math.sin(Math.PI * x) / (Math.PI * x)) * (0.5 + 0.5 * Math.cos((Math.PI * x) / 6.5));
  }),
);

/** Follows one channel block by block and tells the highest level between the samples too. */
export class TruePeak {
  private readonly line = new Float64Array(2 * taps);
  private at = 0;

  /** The highest of a block, as a ratio; 0 for an empty one. */
  next(block: Float32Array): number {
    const { line } = this;
    let highest = 0;
    for (let i = 0; i < block.length; i++) {
      this.at = (this.at + taps - 1) % taps;
      // Written twice, so that the last twelve always lie in one piece.
      line[this.at] = block[i];
      line[this.at + taps] = block[i];
      highest = Math.max(highest, Math.abs(block[i]));
      for (const row of betweenFrames) {
        let sum = 0;
        for (let tap = 0; tap < taps; tap++) sum += row[tap] * line[this.at + tap];
        const level = Math.abs(sum);
        if (level > highest) highest = level;
      }
    }
    return highest;
  }
}
