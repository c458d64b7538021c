import { beatsToSeconds } from '../units/time';
import type { PcmAudio } from '../formats/pcm';
import type { EmbeddedTags } from '../formats/tags/embedded';
import { keyName } from '../theory/key';
import { keptReadings, overviewColumns, type Analysis, type Detail, type Measures, type WholeSound } from './analysis';
import { mostBars, mostBeats, notesByBar } from './chords/bars';
import { bandShares } from './colour/colour';
import { isKey, type KeyValue } from './attributes/key';
import { evidence, type Evidence } from './facts';
import { fingerprint } from './fingerprint/fingerprint';
import { familiesHeard } from './instrument/also-heard';
import { homelessChance } from './key/home';
import { judgeKey } from './key/judge-key';
import { landingOf } from './landing/landing';
import { bandLimitHz } from './level/band-limit';
import { seamDb } from './level/seam';
import { listen, type Given, type Listening, type SoundFile } from './listening';
import type { Heard } from './listen/hear';
import { samplePeakDbfs } from './loudness/loudness';
import { notesOfTrack, type HeardNote } from './melody/melody';
import { trackSingleVoice } from './melody/pitch-track';
import { cutsOf } from './onsets/cuts';
import { hitStrengths } from './onsets/onsets';
import { allParts, parts, type Part } from './parts';
import { labelsOfCharacter } from './labels';
import { isSaidBy } from './said-by';
import { overviewPeaks } from './peaks/peaks';
import { measureGroove } from './rhythm/accents';
import { beatMapOf } from './rhythm/beat-map';
import { characterWords } from './rhythm/character';
import { likenessOf } from './similarity/likeness';
import { pulseTempos } from './tempo/pulse-tempos';
import type { Reading } from './tempo/read-rhythm';

/**
 * Everything that is known of a sound at the project's rate. `path` is the vendor's, with folders; empty for the sound alone. Of a long
 * file `pcm` is the beginning, and `whole` what is known of all of it. `said` is what others say, persons, set and pack: it is not given back as evidence,
 * but bars, chords and accents are told by it.
 */
export function analyseAudio(
  pcm: PcmAudio,
  path: string,
  tags: EmbeddedTags,
  whole: WholeSound | null = null,
  said: readonly Evidence[] = [],
): Analysis {
  const listening = listen({ pcm, path, tags, whole }, allParts, { evidence: said, readings: null });
  if (listening.heard.gain === 0) return silence(listening);
  const names = partsOf.names(listening),
    labels = partsOf.labels(listening),
    levels = partsOf.levels(listening),
    hits = partsOf.hits(listening),
    colour = partsOf.colour(listening),
    print = partsOf.fingerprint(listening),
    instrument = partsOf.instrument(listening),
    rhythm = partsOf.rhythm(listening),
    kind = partsOf.kind(listening),
    landing = partsOf.landing(listening),
    key = partsOf.key(listening),
    bars = partsOf.bars(listening);
  return {
    evidence: [
      ...names.evidence,
      ...rhythm.evidence,
      ...key.evidence,
      ...kind.evidence,
      ...landing.evidence,
      ...instrument.evidence,
      ...labels.evidence,
      ...bars.evidence,
    ],
    measures: {
      ...spanMeasures(listening),
      ...levels.measures,
      ...hits.measures,
      ...colour.measures,
      ...print.measures,
      ...key.measures,
      ...bars.measures,
      detail: {
        ...rhythm.detail,
        ...bars.detail,
        ...hits.detail,
        ...colour.detail,
        ...instrument.detail,
        ...levels.detail,
        ...key.detail,
      },
    },
  };
}

/** What some parts say anew; the rest stays as it is. */
export interface PartialAnalysis {
  readonly evidence: readonly Evidence[];
  readonly measures: Partial<Omit<Measures, 'detail'>>;
  /** Null for silence, of which nothing is to be kept. */
  readonly detail: Partial<Detail> | null;
}

/** Hears the wanted parts of a sound and no more. `given` is what is in force of the others, with what persons, set and pack say. */
export function analyseParts(file: SoundFile, wanted: ReadonlySet<Part>, given: Given): PartialAnalysis {
  const listening = listen(file, wanted, given);
  if (listening.heard.gain === 0) {
    const { evidence: all, measures } = silence(listening);
    return { evidence: all.filter((each) => isSaidBy(wanted, each)), measures, detail: null };
  }
  const slices: readonly Slice[] = parts.filter((part) => wanted.has(part)).map((part) => partsOf[part](listening));
  return {
    evidence: slices.flatMap((slice) => slice.evidence ?? []),
    measures: Object.assign({}, ...slices.map(({ measures }) => measures)) as PartialAnalysis['measures'],
    detail: Object.assign({}, ...slices.map(({ detail }) => detail)) as Partial<Detail>,
  };
}

interface Slice {
  readonly evidence?: readonly Evidence[];
  readonly measures?: Partial<Measures>;
  readonly detail?: Partial<Detail>;
}

const spanMeasures = ({ lengthSeconds, heard }: Listening) => ({ lengthSeconds, soundEndSeconds: heard.span.lastSoundSeconds });

const levelMeasures = ({ pcm, whole, levels }: Listening) => ({
  loudnessLufs: levels().integratedLufs,
  peakDbfs: whole ? whole.peakDbfs : samplePeakDbfs(pcm.channels),
  overview: whole?.overview ?? overviewPeaks(pcm.channels, overviewColumns),
});

function silence(listening: Listening): Analysis {
  return {
    evidence: [
      ...listening.stated(),
      ...listening.labels(),
      evidence('kind', 'sound', [{ value: 'one-shot', probability: 0.5 }], 'the file is silent'),
      evidence('key', 'sound', [{ value: 'unpitched', probability: 0.99 }], 'the file is silent'),
    ],
    measures: {
      ...spanMeasures(listening),
      ...levelMeasures(listening),
      onsetFrames: [],
      faintFrames: [],
      firstBarSeconds: 0,
      tuningCents: 0,
      chroma: new Array<number>(12).fill(0),
      likeness: null,
      fingerprint: new Uint32Array(0),
      detail: null,
    },
  };
}

/** What each part says, in evidence and measures. */
const partsOf = {
  names: ({ reconciled }: Listening) => ({ evidence: reconciled() }),

  labels: ({ labels }: Listening) => ({ evidence: labels() }),

  levels: (listening: Listening) => ({
    measures: levelMeasures(listening),
    detail: {
      levels: { ...listening.levels(), bandLimitHz: bandLimitHz(listening.heard.mono, listening.heard.sampleRateHz) },
    },
  }),

  hits: ({ heard, mixed, rises, onsetFrames, onsetSeconds }: Listening) => {
    const strengths = hitStrengths(heard.mono, heard.sampleRateHz, onsetFrames()),
      { clearFrames, faintFrames } = cutsOf(rises(), mixed);
    return {
      measures: { onsetFrames: clearFrames, faintFrames },
      detail: { hits: onsetSeconds().map((seconds, k) => [seconds, strengths[k]] as const) },
    };
  },

  colour: ({ heard, lengthSeconds, colour, timbre }: Listening) => ({
    measures: { likeness: likenessOf(timbre()) },
    detail: {
      brightnessHz: colour().centreHz,
      bands: bandShares(heard),
      heardSeconds: heard.heardSeconds < lengthSeconds - 0.01 ? heard.heardSeconds : null,
    },
  }),

  fingerprint: ({ heard }: Listening) => ({ measures: { fingerprint: fingerprint(heard.tones) } }),

  instrument: ({ named, timbre }: Listening) => {
    const { instruments, families } = named();
    return {
      evidence: [
        evidence('instrument', 'sound', instruments.filter(({ probability }) => probability > 0.004).slice(0, 10), 'colour of the sound'),
      ],
      detail: {
        families: families.slice(0, 6),
        heardFamilies: familiesHeard(timbre()).filter(({ probability }) => probability > 0.1),
      },
    };
  },

  rhythm: ({ rhythm, heardTempo }: Listening) => {
    const { readings, pulse } = rhythm();
    return {
      evidence: heardTempo(),
      detail: {
        readings: readings.slice(0, keptReadings),
        pulse: pulseTempos.map((tempo) => Math.max(0, pulse.all[Math.round(beatsToSeconds(1, tempo) / pulse.hopSeconds)] ?? 0)),
      },
    };
  },

  kind: ({ heardKind }: Listening) => ({ evidence: [heardKind()] }),

  landing: ({ heard }: Listening) => {
    const landing = landingOf(heard.mono, heard.sampleRateHz);
    return {
      evidence: landing
        ? [
            evidence(
              'landing',
              'sound',
              [{ value: Number(landing.seconds.toFixed(3)), probability: landing.probability }],
              landing.way === 'rises' ? 'it rises up to there' : 'its strongest attack',
            ),
          ]
        : [],
    };
  },

  key: ({ heard, shared, pitchedChance }: Listening) => {
    const judged = judgeKey(shared()),
      homeless = homelessChance(
        shared(),
        judged.map(({ probability }) => probability),
      );
    const keys: { value: KeyValue; probability: number }[] = [
      ...judged.map(({ value, probability }) => ({ value, probability: probability * pitchedChance() * (1 - homeless) })),
      { value: 'no-single-key' as const, probability: pitchedChance() * homeless },
      { value: 'unpitched' as const, probability: 1 - pitchedChance() },
    ]
      .sort((a, b) => b.probability - a.probability)
      .slice(0, 10);
    return {
      evidence: [evidence('key', 'sound', keys, keyReason(keys[0].value))],
      measures: { tuningCents: heard.tones.tuningCents, chroma: [...shared().strength] },
      detail: { tuningAgreement: heard.tones.tuningAgreement },
    };
  },

  bars: ({ pcm, heard, turning, pitchedChance, onsetSeconds, soundSeconds, colour }: Listening) => {
    const turn = turning(),
      groove = turn && measureGroove(heard.onsets, onsetSeconds(), turn),
      tuned = pitchedChance() > 0.3 ? turn : null,
      beatSeconds = turn ? beatsToSeconds(1, turn.tempoBpm) : 0,
      density = onsetSeconds().length / (turn ? turn.beats : soundSeconds),
      character = characterWords({
        ...colour(),
        onsetsPerBeat: turn ? density : null,
        spreadMs: groove?.spreadMs ?? null,
        pitched: pitchedChance() > 0.5,
      });
    return {
      evidence: labelsOfCharacter(character),
      measures: { firstBarSeconds: turn?.startSeconds ?? 0 },
      detail: {
        groove,
        bars: tuned
          ? notesByBar(heard.notes, tuned.startSeconds, (tuned.beats / tuned.bars) * beatSeconds, Math.min(mostBars, tuned.bars))
          : [],
        beatChords: tuned
          ? notesByBar(heard.notes, tuned.startSeconds, beatSeconds, Math.min(mostBeats, tuned.beats)).map(({ chord }) => chord)
          : [],
        density,
        fallSeconds: colour().fallSeconds,
        character,
        melody: turn && pitchedChance() > 0.5 ? melodyOf(heard, onsetSeconds()) : null,
        beatMap: turn && beatMapOf(turn, onsetSeconds()),
        seamDb: turn && seamOf(pcm, turn),
      },
    };
  },
} satisfies Readonly<Record<Part, (listening: Listening) => Slice>>;

function keyReason(value: KeyValue): string {
  if (isKey(value)) return `notes heard speak for ${keyName(value)}`;
  return value === 'unpitched' ? 'no steady tones heard' : 'notes heard fit no one scale from start to end';
}

/** The notes of one voice; null where several sound at once, or where too little is heard to be a tune. */
function melodyOf({ mono, sampleRateHz, tones }: Heard, onsetSeconds: readonly number[]): HeardNote[] | null {
  const track = trackSingleVoice(mono, sampleRateHz),
    notes = track && notesOfTrack(track, onsetSeconds, tones.tuningCents);
  return notes && notes.length > 1 ? notes : null;
}

/** How a reading's last bar line joins its first. */
function seamOf({ channels, sampleRateHz }: PcmAudio, { startSeconds, beats, tempoBpm }: Reading): number | null {
  const end = startSeconds + beatsToSeconds(beats, tempoBpm);
  return seamDb(channels, Math.round(startSeconds * sampleRateHz), Math.round(end * sampleRateHz));
}
