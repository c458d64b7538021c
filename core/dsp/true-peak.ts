/** Interpolation at quarters of a sample: ITU-R BS.1770-4, annex 2 (coefficients from memory); the last two phases mirror the first. */
const first = [
    0.001708984375, 0.010986328125, -0.0196533203125, 0.033203125, -0.0594482421875, 0.1373291015625, 0.97216796875, -0.102294921875,
    0.047607421875, -0.026611328125, 0.014892578125, -0.00830078125,
  ],
  second = [
    -0.0291748046875, 0.029296875, -0.0517578125, 0.089111328125, -0.16650390625, 0.465087890625, 0.77978515625, -0.2003173828125,
    0.1015625, -0.0582275390625, 0.0330810546875, -0.0189208984375,
  ],
  taps = 12,
  phases = [first, second, [...second].reverse(), [...first].reverse()].map((row) => Float64Array.from(row));

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
      for (let phase = 0; phase < 4; phase++) {
        const row = phases[phase];
        let sum = 0;
        for (let tap = 0; tap < taps; tap++) sum += row[tap] * line[this.at + tap];
        const level = Math.abs(sum);
        if (level > highest) highest = level;
      }
    }
    return highest;
  }
}
