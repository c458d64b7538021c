/**
 * Cuts one cycle out of a file: `lengthFrames` from `startFrame`, with what rings on behind it folded into the start, as it
 * would sound if the loop had been playing before. A file that is short by a little is filled up with silence. What is
 * behind the cycle counts as ringing when it is 10 dB quieter than the cycle; else it is further music and is left away. `tail` says so by hand.
 */
export function extractCycle(
  channels: readonly Float32Array[],
  startFrame: number,
  lengthFrames: number,
  tail?: 'wrap' | 'cut',
): Float32Array[] {
  const fold = tail === 'wrap' || (tail !== 'cut' && isTail(channels, startFrame, lengthFrames));
  return channels.map((plane) => {
    const cycle = new Float32Array(lengthFrames);
    cycle.set(plane.subarray(startFrame, Math.min(plane.length, startFrame + lengthFrames)));
    if (fold) {
      const tail = plane.subarray(startFrame + lengthFrames, startFrame + 2 * lengthFrames);
      for (let i = 0; i < tail.length; i++) cycle[i] += tail[i];
    }
    return cycle;
  });
}

/** Whether what lies behind a cycle only rings, 10 dB softer than the cycle: further music is louder. */
export function isTail(channels: readonly Float32Array[], startFrame: number, lengthFrames: number): boolean {
  const meanSquare = (from: number, to: number) => {
    let sum = 0,
      count = 0;
    for (const plane of channels)
      for (let i = Math.max(0, from); i < Math.min(plane.length, to); i++) {
        sum += plane[i] * plane[i];
        count++;
      }
    return count > 0 ? sum / count : 0;
  };
  const end = startFrame + lengthFrames;
  const behind = meanSquare(end, end + lengthFrames);
  return behind > 0 && behind < meanSquare(startFrame, end) * 0.1;
}
