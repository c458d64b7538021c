/** Gains of a stereo panner for stereo input: [left→left, right→left, left→right, right→right] (W3C Web Audio 1.1, StereoPannerNode). */
export function stereoPanGains(pan: number): readonly [number, number, number, number] {
  const x = pan <= 0 ? pan + 1 : pan;
  const left = Math.cos((x * Math.PI) / 2),
    right = Math.sin((x * Math.PI) / 2);
  return pan <= 0 ? [1, left, 0, right] : [left, 0, right, 1];
}
