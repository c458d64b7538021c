/** Where a channel is heard from. Channels that nothing is known of are left out of the sum, as is the low-frequency one. */
export type Speaker = 'left' | 'right' | 'centre' | 'low' | 'back-left' | 'back-right' | 'side-left' | 'side-right' | 'back' | 'other';

const half = Math.SQRT1_2;
/** Shares of a speaker in left and right (ITU-R BS.775-3, table 2: centre and surround at −3 dB). */
const shares: Readonly<Record<Speaker, readonly [left: number, right: number]>> = {
  left: [1, 0],
  right: [0, 1],
  centre: [half, half],
  low: [0, 0],
  'back-left': [half, 0],
  'back-right': [0, half],
  'side-left': [half, 0],
  'side-right': [0, half],
  // One surround channel goes to both sides, at −3 dB each once more.
  back: [0.5, 0.5],
  other: [0, 0],
};

/** By number of channels, as WAV (without a mask) and FLAC order them (RFC 9639, 9.1.3). */
const usual: Readonly<Record<number, readonly Speaker[]>> = {
  3: ['left', 'right', 'centre'],
  4: ['left', 'right', 'back-left', 'back-right'],
  5: ['left', 'right', 'centre', 'back-left', 'back-right'],
  6: ['left', 'right', 'centre', 'low', 'back-left', 'back-right'],
  7: ['left', 'right', 'centre', 'low', 'back', 'side-left', 'side-right'],
  8: ['left', 'right', 'centre', 'low', 'back-left', 'back-right', 'side-left', 'side-right'],
};

/** As Vorbis and Opus order them (Vorbis I, 4.3.9; RFC 7845, 5.1.1.2). */
const ofVorbis: Readonly<Record<number, readonly Speaker[]>> = {
  3: ['left', 'centre', 'right'],
  4: ['left', 'right', 'back-left', 'back-right'],
  5: ['left', 'centre', 'right', 'back-left', 'back-right'],
  6: ['left', 'centre', 'right', 'back-left', 'back-right', 'low'],
  7: ['left', 'centre', 'right', 'side-left', 'side-right', 'back', 'low'],
  8: ['left', 'centre', 'right', 'side-left', 'side-right', 'back-left', 'back-right', 'low'],
};

/** Bits of the channel mask of an extensible WAV, in the order in which the channels come (Multiple Channel Audio Data, 2001; from memory). */
const maskBits: readonly Speaker[] = [
  'left',
  'right',
  'centre',
  'low',
  'back-left',
  'back-right',
  'other',
  'other',
  'back',
  'side-left',
  'side-right',
];

/**
 * The speakers of a file's channels.
 * @param order whose order the channels come in; `mask` of an extensible WAV, 0 where there is none
 * @example speakersOf(6, { order: 'usual', mask: 0 })[3] // => 'low'
 */
export function speakersOf(channelCount: number, { order, mask = 0 }: { order: 'usual' | 'vorbis'; mask?: number }): readonly Speaker[] {
  const named = Array.from({ length: 32 }, (_, bit) => bit)
    .filter((bit) => (mask >>> bit) & 1)
    .map((bit) => maskBits[bit] ?? 'other');
  if (named.length >= channelCount) return named.slice(0, channelCount);
  const known = (order === 'vorbis' ? ofVorbis : usual)[channelCount];
  // More channels than any order has: the first two are a pair, of the others nothing is known.
  return known ?? Array.from({ length: channelCount }, (_, channel) => (channel === 0 ? 'left' : channel === 1 ? 'right' : 'other'));
}

/**
 * More than two channels as two, for hearing; one and two stay as they are.
 * @param planes `[channel][frame]`, as many as there are speakers
 * @returns new planes where something was mixed; peaks may lie above full scale
 */
export function downmix(planes: readonly Float32Array[], speakers: readonly Speaker[]): readonly Float32Array[] {
  if (planes.length <= 2) return planes;
  const out = [0, 1].map(() => new Float32Array(planes[0].length));
  planes.forEach((plane, channel) => {
    shares[speakers[channel] ?? 'other'].forEach((share, side) => {
      if (share === 0) return;
      const into = out[side];
      for (let i = 0; i < plane.length; i++) into[i] += share * plane[i];
    });
  });
  return out;
}
