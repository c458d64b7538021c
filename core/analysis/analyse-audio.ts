import { lengthFrames, type PcmAudio } from '../formats/pcm';
import type { EmbeddedTags } from '../formats/tags/embedded';
import type { Family } from '../theory/instruments';
import { keyName } from '../theory/key';
import { mostBars, mostBeats, notesByBar, type BarNotes, type Triad } from './chords/bars';
import { evidenceFromPath, evidenceFromTags } from './evidence/from-names';
import { fuse } from './evidence/fuse';
import { withQuarters } from './evidence/quarters';
import { settleReading } from './evidence/settle-reading';
import { evidence, type Evidence, type KeyValue } from './facts';
import { fingerprint } from './fingerprint/fingerprint';
import { familiesHeard } from './instrument/also-heard';
import { nameInstrument } from './instrument/name-instrument';
import { strokeFeatures } from './instrument/stroke';
import { timbreVector } from './instrument/timbre';
import { judgeKey } from './key/judge-key';
import { keyGround } from './key/key-features';
import { judgeKind } from './kind/judge-kind';
import { kindFeatures } from './kind/kind-features';
import { classify } from './learned/network';
import { model } from './learned/models';
import { bandLimitHz } from './level/band-limit';
import { measureLevels, type Levels } from './level/levels';
import { seamDb } from './level/seam';
import { hear, type Heard } from './listen/hear';
import { bandCentreHz, melBands } from './listen/mel';
import { samplePeakDbfs } from './loudness/loudness';
import { notesOfTrack, type HeardNote } from './melody/melody';
import { trackSingleVoice } from './melody/pitch-track';
import { cutRiseDb, hitRiseDb, hitStrengths, onsetRises, pickOnsets } from './onsets/onsets';
import { sharpenOnsets } from './onsets/sharpen';
import { overviewPeaks } from './peaks/peaks';
import { measureGroove, type Groove } from './rhythm/accents';
import { beatMapOf, type BeatMap } from './rhythm/beat-map';
import { characterWords } from './rhythm/character';
import { likenessOf } from './similarity/likeness';
import { pulseTempos } from './tempo/pulse-tempos';
import { readRhythm, temposOf, type Reading } from './tempo/read-rhythm';

/** What is measured once and kept beside the facts. Times are seconds of the file. */
export interface Measures {
  readonly lengthSeconds: number;
  /** Where bar 1 begins. */
  readonly leadSeconds: number;
  readonly soundEndSeconds: number;
  readonly loudnessLufs: number | null;
  readonly peakDbfs: number | null;
  readonly overview: Uint8Array;
  readonly onsetFrames: readonly number[];
  readonly tuningCents: number;
  readonly chroma: readonly number[];
  /** 32 numbers that are near for sounds alike, see `likenessOf`; null for silence and for notes. */
  readonly likeness: Int8Array | null;
  /** What the same recording is known again by, see `fingerprint`; empty for notes. */
  readonly print: Uint32Array;
  readonly detail: Detail | null;
}

/** What charts, search and later readers draw on; kept as one document with the loop. */
export interface Detail {
  /** Ranked readings of the rhythm, at most `keptReadings`. */
  readonly readings: readonly Reading[];
  /** How well onsets repeat at each tempo of `pulseTempos`, 0–1. */
  readonly pulse: readonly number[];
  readonly groove: Groove | null;
  readonly bars: readonly BarNotes[];
  readonly families: readonly { readonly value: string; readonly probability: number }[];
  /** null for notes, which have none. */
  readonly levels: Levels | null;
  readonly character: readonly string[];
  /** Share of the energy in ten bands from low to high. */
  readonly bands: readonly number[];
  readonly tuningAgreement: number;
  /** Seconds that were heard of a very long file; null when all of it was. */
  readonly heardSeconds: number | null;
  // What follows is not known of loops that were analysed before it was measured.
  /** The notes of a loop that one voice plays; null for all else. */
  readonly melody?: readonly HeardNote[] | null;
  /** Where the beats fall when a player's time wanders; null when it doesn't. */
  readonly beatMap?: BeatMap | null;
  /** How the end joins the start, see `seamDb`; null for what is no loop. */
  readonly seamDb?: number | null;
  /** Every hit: seconds of the file, and how hard, 0–1. */
  readonly hits?: readonly (readonly [seconds: number, strength: number])[];
  /** Hits a beat, or a second where there is no beat. */
  readonly density?: number;
  /** Median centre of the spectrum, Hz; null for notes. */
  readonly brightnessHz?: number | null;
  /** Likeliest triad of each beat; empty where nothing is tuned or nothing has a beat. */
  readonly beatChords?: readonly (Triad | null)[];
  /** Families that may sound, each with its own chance, the surest first. */
  readonly heardFamilies?: readonly { readonly value: Family; readonly probability: number }[];
}

export interface Analysis {
  readonly evidence: readonly Evidence[];
  readonly measures: Measures;
}

export const overviewColumns = 240;
export const keptReadings = 14;

/** What was measured of a long file on the way through it, when only its beginning is in memory. */
export interface WholeSound {
  readonly lengthSeconds: number;
  readonly levels: Levels;
  readonly peakDbfs: number | null;
  readonly overview: Uint8Array;
  readonly lastSoundSeconds: number;
  readonly endLevelDb: number;
}

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
  const heard = hear(
      pcm,
      whole && { fileSeconds: whole.lengthSeconds, lastSoundSeconds: whole.lastSoundSeconds, endLevelDb: whole.endLevelDb },
    ),
    silent = heard.gain === 0,
    named = [...evidenceFromTags(tags), ...(path ? evidenceFromPath(path) : [])];
  const namedTempos = [...named, ...said]
    .filter((each): each is Evidence<'tempo'> => each.attribute === 'tempo')
    .flatMap((each) => each.candidates.filter(({ probability }, k) => k === 0 || probability > 0.1).map(({ value }) => value));
  // Where all of it was heard, the channels need not be mixed once more.
  const mixed = heard.mono.length === lengthFrames(pcm) ? [heard.mono] : pcm.channels,
    rises = silent ? null : onsetRises(mixed, pcm.sampleRateHz),
    onsetFrames = rises ? pickOnsets(rises, hitRiseDb) : [],
    levels = whole?.levels ?? measureLevels(pcm.channels, pcm.sampleRateHz);
  const common = {
    lengthSeconds: whole?.lengthSeconds ?? lengthFrames(pcm) / pcm.sampleRateHz,
    soundEndSeconds: heard.span.lastSoundSeconds,
    loudnessLufs: levels.integratedLufs,
    peakDbfs: whole ? whole.peakDbfs : samplePeakDbfs(pcm.channels),
    overview: whole?.overview ?? overviewPeaks(pcm.channels, overviewColumns),
    onsetFrames: rises ? sharpenOnsets(mixed, pcm.sampleRateHz, pickOnsets(rises, cutRiseDb)) : [],
  };
  if (silent)
    return {
      evidence: [
        ...named,
        evidence('kind', 'sound', [{ value: 'one-shot', probability: 0.5 }], 'the file is silent'),
        evidence('key', 'sound', [{ value: 'unpitched', probability: 0.99 }], 'the file is silent'),
      ],
      measures: {
        ...common,
        leadSeconds: 0,
        tuningCents: 0,
        chroma: new Array<number>(12).fill(0),
        likeness: null,
        print: new Uint32Array(0),
        detail: null,
      },
    };
  const timbre = timbreVector(heard),
    { instruments, families, familyScores } = nameInstrument(timbre, strokeFeatures(heard)),
    rhythm = readRhythm(heard, namedTempos, familyScores),
    tempos = temposOf(rhythm.readings),
    heardTempo = tempos.length ? [evidence('tempo', 'sound', tempos.slice(0, 10), rhythmReason(heard, rhythm.readings[0]))] : [],
    stated = withQuarters(named, rhythm.readings),
    best = settleReading(rhythm.readings, [...stated, ...heardTempo, ...said], common.lengthSeconds);
  const soundSeconds = Math.max(0.05, heard.span.lastSoundSeconds - heard.span.firstSoundSeconds),
    mix = families.find(({ value }) => value === 'mix')?.probability ?? 0,
    kinds = judgeKind([...timbre, ...kindFeatures(rhythm.ground)], onsetFrames.length, soundSeconds, mix),
    heardKind = evidence(
      'kind',
      'sound',
      kinds,
      `${onsetFrames.length} ${onsetFrames.length === 1 ? 'hit' : 'hits'} in ${soundSeconds.toFixed(1)} s`,
    ),
    kind = fuse('kind', [...stated, heardKind, ...said])?.value,
    isLoop = kind === 'loop' || kind === 'full-mix';
  const musicEnd =
      isLoop && best
        ? Math.min(heard.span.lastSoundSeconds, best.startSeconds + (best.beats * 60) / best.tempoBpm)
        : heard.span.lastSoundSeconds,
    pitchedChance = classify(model('pitched'), timbre)[1],
    onsetSeconds = onsetFrames.map((frame) => frame / pcm.sampleRateHz),
    melody = isLoop && pitchedChance > 0.5 ? melodyOf(heard, onsetSeconds) : null,
    ground = keyGround(heard.notes, isLoop && best ? best.startSeconds : 0, musicEnd);
  const keys: { value: KeyValue; probability: number }[] = [
    ...judgeKey(ground).map(({ value, probability }) => ({ value, probability: probability * pitchedChance })),
    { value: 'unpitched' as const, probability: 1 - pitchedChance },
  ]
    .sort((a, b) => b.probability - a.probability)
    .slice(0, 10);
  const groove = isLoop && best ? measureGroove(heard.onsets, onsetSeconds, best) : null,
    tuned = isLoop && pitchedChance > 0.3 ? best : undefined,
    beatSeconds = best ? 60 / best.tempoBpm : 0,
    strengths = hitStrengths(heard.mono, heard.sampleRateHz, onsetFrames),
    density = onsetSeconds.length / (isLoop && best ? best.beats : soundSeconds),
    colour = colourOf(heard);
  return {
    evidence: [
      ...stated,
      ...heardTempo,
      evidence(
        'key',
        'sound',
        keys,
        keys[0].value === 'unpitched' ? 'no steady tones heard' : `notes heard speak for ${keyName(keys[0].value)}`,
      ),
      heardKind,
      evidence('instrument', 'sound', instruments.filter(({ probability }) => probability > 0.004).slice(0, 10), 'colour of the sound'),
    ],
    measures: {
      ...common,
      leadSeconds: isLoop && best ? best.startSeconds : 0,
      tuningCents: heard.tones.tuningCents,
      chroma: [...ground.strength],
      likeness: likenessOf(timbre),
      print: fingerprint(heard.tones),
      detail: {
        readings: rhythm.readings.slice(0, keptReadings),
        pulse: pulseTempos.map((tempo) => Math.max(0, rhythm.pulse.all[Math.round(60 / tempo / rhythm.pulse.hopSeconds)] ?? 0)),
        groove,
        bars: tuned
          ? notesByBar(heard.notes, tuned.startSeconds, (tuned.beats / tuned.bars) * beatSeconds, Math.min(mostBars, tuned.bars))
          : [],
        beatChords: tuned
          ? notesByBar(heard.notes, tuned.startSeconds, beatSeconds, Math.min(mostBeats, tuned.beats)).map(({ chord }) => chord)
          : [],
        hits: onsetSeconds.map((seconds, k) => [seconds, strengths[k]] as const),
        density,
        brightnessHz: colour.centreHz,
        families: families.slice(0, 6),
        levels: { ...levels, bandLimitHz: bandLimitHz(heard.mono, heard.sampleRateHz) },
        character: characterWords({
          ...colour,
          onsetsPerBeat: isLoop && best ? density : null,
          spreadMs: groove?.spreadMs ?? null,
          pitched: pitchedChance > 0.5,
        }),
        bands: bandShares(heard),
        tuningAgreement: heard.tones.tuningAgreement,
        heardSeconds: heard.heardSeconds < common.lengthSeconds - 0.01 ? heard.heardSeconds : null,
        melody,
        beatMap: isLoop && best ? beatMapOf(best, onsetSeconds) : null,
        seamDb: isLoop && best ? seamOf(pcm, best) : null,
        heardFamilies: familiesHeard(timbre).filter(({ probability }) => probability > 0.1),
      },
    },
  };
}

/** The notes of one voice; null where several sound at once, or where too little is heard to be a tune. */
function melodyOf({ mono, sampleRateHz, tones }: Heard, onsetSeconds: readonly number[]): HeardNote[] | null {
  const track = trackSingleVoice(mono, sampleRateHz),
    notes = track && notesOfTrack(track, onsetSeconds, tones.tuningCents);
  return notes && notes.length > 1 ? notes : null;
}

/** How a reading's last bar line joins its first. */
function seamOf({ channels, sampleRateHz }: PcmAudio, { startSeconds, beats, tempoBpm }: Reading): number | null {
  const end = startSeconds + (beats * 60) / tempoBpm;
  return seamDb(channels, Math.round(startSeconds * sampleRateHz), Math.round(end * sampleRateHz));
}

/** Why this reading, in words. */
function rhythmReason({ span }: Heard, best: Reading): string {
  const end = best.startSeconds + (best.beats * 60) / best.tempoBpm,
    gap = span.fileSeconds - end,
    bars = `${best.bars} ${best.bars === 1 ? 'bar' : 'bars'}`;
  if (Math.abs(gap) < 0.02) return `length fits ${bars} at ${best.tempoBpm.toFixed(2)}; onsets heard`;
  return `onsets repeat at ${best.tempoBpm.toFixed(1)}: ${bars}, then ${gap.toFixed(1)} s of tail`;
}

const groupCount = 10;

function bandShares({ mel }: Heard): number[] {
  const sums = new Array<number>(groupCount).fill(0);
  for (let i = 0; i < mel.power.length; i++) sums[Math.floor(((i % melBands) * groupCount) / melBands)] += mel.power[i];
  const total = sums.reduce((a, b) => a + b, 1e-12);
  return sums.map((value) => value / total);
}

/** Measures of colour for the words of character. */
function colourOf({ mel }: Heard): { fallSeconds: number; centreHz: number; flatness: number; crestDb: number } {
  const energy = new Float32Array(mel.frameCount);
  let loudest = 0,
    at = 0,
    sum = 0;
  for (let frame = 0; frame < mel.frameCount; frame++) {
    for (let band = 0; band < melBands; band++) energy[frame] += mel.power[frame * melBands + band];
    sum += energy[frame] / mel.frameCount;
    if (energy[frame] > loudest) [loudest, at] = [energy[frame], frame];
  }
  let fall = at;
  while (fall < mel.frameCount && energy[fall] > loudest / 16) fall++;
  const centres: number[] = [],
    flatness: number[] = [];
  for (let frame = 0; frame < mel.frameCount; frame += 4) {
    if (energy[frame] < loudest * 0.02) continue;
    let centre = 0,
      logs = 0;
    for (let band = 0; band < melBands; band++) {
      const power = mel.power[frame * melBands + band];
      centre += (power / energy[frame]) * bandCentreHz(band);
      logs += Math.log(power + energy[frame] * 1e-6) / melBands;
    }
    centres.push(centre);
    flatness.push(Math.exp(logs) / (energy[frame] / melBands));
  }
  const median = (list: number[]) => list.sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? 0;
  return {
    fallSeconds: (fall - at) * mel.hopSeconds,
    centreHz: median(centres),
    flatness: median(flatness),
    crestDb: sum > 0 ? 10 * Math.log10(loudest / sum) + 3 : 0,
  };
}
