import { createRandom } from '../core/synth/random';
import type { HeardNote } from '../core/analysis/melody/melody';
import { isKnownMeter } from '../core/analysis/tempo/candidates';
import type { Truth } from './truth';

/** What a detector says of a file; the fields that `npm run analyze` prints. */
export interface Said {
  readonly file: string;
  readonly kind?: string;
  readonly kindConfidence?: number | null;
  readonly tempoBpm: number | null;
  readonly tempoConfidence?: number | null;
  readonly bars?: number | null;
  readonly beatsConfidence?: number | null;
  readonly meter?: string | null;
  readonly meterConfidence?: number | null;
  readonly key?: { readonly tonic: number; readonly mode: string } | null;
  readonly keyConfidence?: number | null;
  readonly pitched?: boolean | null;
  readonly family?: string | null;
  readonly familyConfidence?: number | null;
  readonly instrument?: string | null;
  readonly instrumentConfidence?: number | null;
  readonly loopStartSeconds?: number | null;
  readonly detail?: {
    readonly bars: readonly { readonly chord: { readonly root: number; readonly minor: boolean } | null }[];
    readonly melody?: readonly HeardNote[] | null;
  } | null;
}

/** Facts that are shown with how sure they are. */
export const shownFacts = ['tempo', 'bars', 'meter', 'key', 'family', 'instrument', 'kind'] as const;
export type ShownFact = (typeof shownFacts)[number];

/** Percentages, null where nothing was to score. */
export interface Scores {
  readonly tempoExact: number | null;
  readonly accuracy1: number | null;
  readonly accuracy2: number | null;
  readonly bars: number | null;
  /** 4/4, 3/4 and 6/8 told as such, all others as unknown. */
  readonly meter: number | null;
  readonly keyExact: number | null;
  readonly keyWeighted: number | null;
  /** Of what has no single key, and of what clearly has one, the share of which that was said. */
  readonly homeless: number | null;
  readonly homelessFalse: number | null;
  readonly pitchedF1: number | null;
  readonly family: number | null;
  readonly instrument: number | null;
  readonly isLoop: number | null;
  readonly downbeat: number | null;
  readonly chords: number | null;
  /** F-measure of notes where a single voice was taken for one, and in how many of the loops of one voice, and of others, it was. */
  readonly melody: number | null;
  readonly melodyFound: number | null;
  readonly melodyFalse: number | null;
  readonly calibration: Readonly<Record<ShownFact, Calibration | null>>;
  readonly counts: { readonly tempo: number; readonly key: number; readonly family: number };
}

export interface Calibration {
  /** Expected calibration error over ten bins (Naeini et al. 2015). */
  readonly ece: number;
  /** What a detector whose confidence means exactly what it says would show on as many files: chance alone makes bins uneven. */
  readonly eceByChance: number;
  /** Share of what was said with at least 0.9 that is wrong, percent, and how many were said so. */
  readonly wrongAtNinety: number | null;
  readonly atNinety: number;
}

/** Families whose loops state their chords; a melody over chords leaves them open. */
const chordal: ReadonlySet<string> = new Set(['keys', 'guitar', 'synth-pad', 'mix']);

/** What the outside development set calls otherwise, or tells apart further. */
const outsideInstruments: Readonly<Record<string, string>> = {
  'acoustic bass': 'upright-bass',
  'electric bass': 'electric-bass',
  'sub bass': 'sub-bass',
  'synth bass': 'synth-bass',
  'french horn': 'brass',
  crash: 'hats',
  hat: 'hats',
  ride: 'hats',
  rim: 'snare',
  tom: 'toms',
  noise: 'texture',
  zap: 'impact',
  'acoustic guitar': 'acoustic-guitar',
  'electric guitar': 'electric-guitar',
  'distorted guitar': 'electric-guitar',
  'electric piano': 'electric-piano',
  glockenspiel: 'bells',
  'steel drums': 'bells',
  vibraphone: 'bells',
  xylophone: 'marimba',
  'full mix': 'full-mix',
  agogo: 'woodblock',
  clave: 'woodblock',
  bongo: 'conga',
  timbale: 'conga',
  guiro: 'shaker',
  'latin perc': 'percussion',
  'synth lead': 'synth-lead',
  'synth pluck': 'synth-pluck',
  'synth pad': 'synth-pad',
  vocal: 'voice',
  oboe: 'clarinet',
  'pan flute': 'flute',
};

const within = (said: number | null | undefined, truth: number, tolerance: number): boolean =>
  said != null && Math.abs(said / truth - 1) <= tolerance;

/** MIREX audio key detection: 1 right, 0.5 a fifth above, 0.3 relative, 0.2 parallel. */
export function keyScore(truth: { tonic: number; mode: string }, said: { tonic: number; mode: string } | null | undefined): number {
  if (!said) return 0;
  const away = (said.tonic - truth.tonic + 12) % 12,
    same = said.mode === truth.mode;
  if (same) return away === 0 ? 1 : away === 7 ? 0.5 : 0;
  return away === (truth.mode === 'major' ? 9 : 3) ? 0.3 : away === 0 ? 0.2 : 0;
}

/** Notes that are right, said and true: pitch the same, start within 50 ms (as MIREX tracks notes; ends are not judged). */
export function matchNotes(truth: NonNullable<Truth['melody']>, said: readonly HeardNote[]): { right: number; said: number; true: number } {
  const open = truth.map(([start, , note]) => ({ start, note }));
  let right = 0;
  for (const { startSeconds, pitch } of said) {
    const at = open.findIndex(({ start, note }) => note === pitch && Math.abs(start - startSeconds) <= 0.05);
    if (at < 0) continue;
    open.splice(at, 1);
    right++;
  }
  return { right, said: said.length, true: truth.length };
}

type Judged = { readonly sure: number; readonly right: boolean };

function calibrationError(pairs: readonly Judged[]): number {
  const bins = Array.from({ length: 10 }, () => ({ sure: 0, right: 0 }));
  for (const { sure, right } of pairs) {
    const bin = bins[Math.min(9, Math.floor(sure * 10))];
    bin.sure += sure;
    bin.right += Number(right);
  }
  return bins.reduce((sum, bin) => sum + Math.abs(bin.sure - bin.right) / pairs.length, 0);
}

export function calibrate(pairs: readonly Judged[]): Calibration | null {
  if (!pairs.length) return null;
  const random = createRandom(1),
    draws = 100;
  let byChance = 0;
  for (let k = 0; k < draws; k++) byChance += calibrationError(pairs.map(({ sure }) => ({ sure, right: random() < sure }))) / draws;
  const ninety = pairs.filter(({ sure }) => sure >= 0.9);
  return {
    ece: calibrationError(pairs),
    eceByChance: byChance,
    wrongAtNinety: ninety.length ? (100 * ninety.filter(({ right }) => !right).length) / ninety.length : null,
    atNinety: ninety.length,
  };
}

/** Scores as practice has them: Accuracy1 and 2 (Gouyon et al. 2006), tempo within 0.5 % as a loop needs it, key by MIREX. */
export function score(truths: readonly Truth[], said: readonly Said[]): Scores {
  const byFile = new Map(said.map((each) => [each.file, each])),
    lists: Record<string, number[]> = {};
  const add = (name: string, value: number | boolean) => (lists[name] ??= []).push(Number(value));
  const sure: Record<ShownFact, Judged[]> = { tempo: [], bars: [], meter: [], key: [], family: [], instrument: [], kind: [] };
  const judge = (fact: ShownFact, confidence: number | null | undefined, right: boolean) => {
    if (confidence != null) sure[fact].push({ sure: confidence, right });
  };
  const notes = { right: 0, said: 0, true: 0 };
  let both = 0,
    onlySaid = 0,
    onlyTrue = 0;
  // Sets that do not tell their melodies cannot be scored by them.
  const melodies = truths.some(({ melody }) => melody);
  for (const truth of truths) {
    const found = byFile.get(truth.file) ?? ({ file: truth.file, tempoBpm: null } as Said);
    if (truth.tempoScored && truth.tempo) {
      const accepted = [truth.tempo],
        octaves = [1, 2, 0.5, 3, 1 / 3].map((ratio) => (truth.tempo ?? 0) * ratio).concat(truth.tempoAlts ?? []);
      const exact = accepted.some((tempo) => within(found.tempoBpm, tempo, 0.005));
      add('tempoExact', exact);
      add(
        'accuracy1',
        accepted.some((tempo) => within(found.tempoBpm, tempo, 0.04)),
      );
      add(
        'accuracy2',
        octaves.some((tempo) => within(found.tempoBpm, tempo, 0.04)),
      );
      add('bars', found.bars === truth.bars);
      judge('tempo', found.tempoConfidence, exact);
      const meterRight = found.meter === (isKnownMeter(truth.meter ?? '') ? truth.meter : 'unknown');
      if (found.meter !== undefined) add('meter', meterRight);
      if (found.bars != null) judge('bars', found.beatsConfidence, found.bars === truth.bars && meterRight);
      if (found.meter != null) judge('meter', found.meterConfidence, meterRight);
    }
    if (truth.isLoop && truth.leadSec !== undefined && truth.bars)
      add('downbeat', found.loopStartSeconds != null && Math.abs(found.loopStartSeconds - truth.leadSec) <= 0.01);
    // Tuned without a single key is tuned; who says nothing of pitch says it by a key.
    const pitched = found.pitched ?? found.key != null,
      homeless = pitched && !found.key;
    if (truth.keyStatus === 'none') add('homeless', homeless);
    else if (truth.keyStatus === 'clear') add('homelessFalse', homeless);
    if (truth.keyStatus === 'atonal') {
      if (pitched) onlySaid++;
    } else if (truth.keyStatus) {
      if (pitched) both++;
      else onlyTrue++;
    }
    if (truth.keyStatus === 'clear' && truth.key) {
      const points = keyScore(truth.key, found.key);
      add('keyExact', points === 1);
      add('keyWeighted', points);
      if (found.key) judge('key', found.keyConfidence, points === 1);
    }
    if (truth.family && found.family) {
      add('family', found.family === truth.family);
      judge('family', found.familyConfidence, found.family === truth.family);
    }
    if (truth.instrument && found.instrument) {
      const right = found.instrument === (outsideInstruments[truth.instrument] ?? truth.instrument);
      add('instrument', right);
      judge('instrument', found.instrumentConfidence, right);
    }
    if (truth.loopScored !== false && found.kind !== undefined) {
      const right = (found.kind === 'loop' || found.kind === 'full-mix') === truth.isLoop;
      add('isLoop', right);
      judge('kind', found.kindConfidence, right);
    }
    if (truth.isLoop && found.detail?.melody !== undefined && melodies) {
      add(truth.melody ? 'melodyFound' : 'melodyFalse', found.detail.melody !== null);
      if (truth.melody && found.detail.melody) {
        const matched = matchNotes(truth.melody, found.detail.melody);
        notes.right += matched.right;
        notes.said += matched.said;
        notes.true += matched.true;
      }
    }
    if (
      chordal.has(truth.family) &&
      !truth.melody &&
      truth.chords?.length &&
      truth.isLoop &&
      found.bars === truth.bars &&
      truth.bars &&
      truth.keyStatus !== 'tonicOnly'
    ) {
      const barQuarters = truth.meter === '4/4' ? 4 : 3;
      for (let bar = 0; bar < truth.bars; bar++) {
        const inBar = truth.chords.filter(
            (chord) => chord.startBeat >= bar * barQuarters - 1e-6 && chord.startBeat < (bar + 1) * barQuarters - 1e-6,
          ),
          chord = inBar[0] ?? truth.chords.findLast((each) => each.startBeat <= bar * barQuarters);
        const third = chord?.intervals.find((interval) => interval === 3 || interval === 4);
        if (!chord || inBar.length > 1 || third === undefined) continue;
        const heard = found.detail?.bars[bar]?.chord;
        add('chords', heard != null && heard.root === chord.root && heard.minor === (third === 3));
      }
    }
  }
  const percent = (name: string): number | null =>
    lists[name]?.length ? (100 * lists[name].reduce((a, b) => a + b, 0)) / lists[name].length : null;
  return {
    tempoExact: percent('tempoExact'),
    accuracy1: percent('accuracy1'),
    accuracy2: percent('accuracy2'),
    bars: percent('bars'),
    meter: percent('meter'),
    keyExact: percent('keyExact'),
    keyWeighted: percent('keyWeighted'),
    homeless: percent('homeless'),
    homelessFalse: percent('homelessFalse'),
    pitchedF1: both + onlySaid + onlyTrue ? (200 * both) / (2 * both + onlySaid + onlyTrue) : null,
    family: percent('family'),
    instrument: percent('instrument'),
    isLoop: percent('isLoop'),
    downbeat: percent('downbeat'),
    chords: percent('chords'),
    melody: notes.said + notes.true ? (200 * notes.right) / (notes.said + notes.true) : null,
    melodyFound: percent('melodyFound'),
    melodyFalse: percent('melodyFalse'),
    calibration: Object.fromEntries(shownFacts.map((fact) => [fact, calibrate(sure[fact])])) as Scores['calibration'],
    counts: { tempo: lists.tempoExact?.length ?? 0, key: lists.keyExact?.length ?? 0, family: lists.family?.length ?? 0 },
  };
}
