/** What is measured for the words of character; see each formula. */
export interface CharacterMeasures {
  /** Seconds to fall by 12 dB behind the strongest sound. */
  readonly fallSeconds: number;
  /** Median centre of the spectrum, Hz. */
  readonly centreHz: number;
  /** Flatness of the spectrum at the loudest moments, 0–1, of pitched sounds: what drive fills between the partials. */
  readonly flatness: number;
  readonly onsetsPerBeat: number | null;
  readonly spreadMs: number | null;
  /** Peak over mean level, dB. */
  readonly crestDb: number;
  readonly pitched: boolean;
}

/**
 * Words that follow from measures, one formula each; only what is clearly on one side is said.
 * - dry below 0.12 s of fall, roomy above 0.7 s
 * - dark below 500 Hz, bright above 3 kHz
 * - clean below 0.02 of flatness, driven above 0.15 (pitched sounds only)
 * - sparse below 0.8 onsets a beat, busy above 3
 * - tight within 6 ms of the grid, loose beyond 14 ms
 * - soft below 11 dB of crest, punchy above 19 dB
 */
export function characterWords({
  fallSeconds,
  centreHz,
  flatness,
  onsetsPerBeat,
  spreadMs,
  crestDb,
  pitched,
}: CharacterMeasures): string[] {
  const words: string[] = [];
  const say = (value: number, low: number, lowWord: string, high: number, highWord: string) => {
    if (value < low) words.push(lowWord);
    else if (value > high) words.push(highWord);
  };
  say(fallSeconds, 0.12, 'dry', 0.7, 'roomy');
  say(centreHz, 500, 'dark', 3000, 'bright');
  if (pitched) say(flatness, 0.02, 'clean', 0.15, 'driven');
  if (onsetsPerBeat !== null) say(onsetsPerBeat, 0.8, 'sparse', 3, 'busy');
  if (spreadMs !== null) say(spreadMs, 6, 'tight', 14, 'loose');
  say(crestDb, 11, 'soft', 19, 'punchy');
  return words;
}
