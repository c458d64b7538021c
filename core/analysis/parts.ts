/**
 * The parts of an analysis, each with the version of what it says: bumped whenever it says something else. A loop keeps the versions that heard
 * it, and only parts that have changed since are heard again, with those that are told by them.
 */
export const partVersions = {
  /** What tags, file name and folders state. */
  names: 6,
  /** What names and tags say beside that: attributes with an estimator of their own, see `Attribute.fromNames`. */
  labels: 2,
  /** Loudness, peaks, noise, stereo, the overview of the waveform. */
  levels: 1,
  /** Every hit, and where it can be cut. */
  hits: 2,
  /** Brightness, bands, likeness. */
  colour: 1,
  /** What a recording is known again by. */
  fingerprint: 1,
  instrument: 4,
  /** Readings: tempo, beats, meter, first bar. */
  rhythm: 4,
  kind: 1,
  /** Where a sound that plays once lands. */
  landing: 1,
  key: 3,
  /** What is told by bars and beats: chords, notes, groove, melody, seam, character. */
  bars: 3,
} as const;

export type Part = keyof typeof partVersions;
export const parts = Object.keys(partVersions) as readonly Part[];
export const allParts: ReadonlySet<Part> = new Set(parts);

/** By what a part is told beside the sound. Names add tempos to rank, and what a stated tempo means hangs on the readings: these two go together. */
const toldBy: Readonly<Record<Part, readonly Part[]>> = {
  names: ['rhythm'],
  labels: [],
  levels: [],
  hits: [],
  colour: [],
  fingerprint: [],
  instrument: [],
  rhythm: ['names', 'instrument'],
  kind: ['hits', 'instrument'],
  landing: [],
  key: ['names', 'rhythm', 'kind'],
  bars: ['names', 'rhythm', 'kind', 'hits', 'key'],
};

/** Versions of parts by name, as a loop keeps them; a part it doesn't name was never heard. */
export type PartVersions = Readonly<Partial<Record<string, number>>>;

/** Grows with every part: what facts and loops are marked with, for people to read; what is outdated is told by the parts. */
export const analyserVersion = parts.reduce((sum, part) => sum + partVersions[part], 0);

/** What has to be heard again of a loop that was heard by `known`, and all that is told by it. */
export function outdatedParts(known: PartVersions, now: PartVersions = partVersions): ReadonlySet<Part> {
  const outdated = new Set<Part>(parts.filter((part) => known[part] !== now[part]));
  for (let before = -1; before !== outdated.size;) {
    before = outdated.size;
    for (const part of parts) if (toldBy[part].some((other) => outdated.has(other))) outdated.add(part);
  }
  return outdated;
}
