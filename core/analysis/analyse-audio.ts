import { chroma } from '../dsp/chroma';
import { onsetEnvelope } from '../dsp/onset-envelope';
import { toMono } from '../dsp/spectrogram';
import { lengthFrames, type PcmAudio } from '../formats/pcm';
import type { EmbeddedTags } from '../formats/tags/embedded';
import { evidenceFromPath, evidenceFromTags } from './evidence/from-names';
import { evidence, type Evidence } from './facts';
import { estimateInstrument, measureTimbre } from './instrument/estimate-instrument';
import { estimateKey } from './key/estimate-key';
import { endLevelDb, estimateKind } from './kind/estimate-kind';
import { integratedLoudness, samplePeakDbfs } from './loudness/loudness';
import { detectOnsets } from './onsets/onsets';
import { overviewPeaks } from './peaks/peaks';
import { estimateTempo } from './tempo/estimate-tempo';
import { lengthCandidates, wholeness } from './tempo/length-candidates';
import { musicRegion, type MusicRegion } from './tempo/music-region';

/** What is measured once and kept beside the facts. Times are seconds of the file. */
export interface Measures {
  readonly lengthSeconds: number;
  readonly leadSeconds: number;
  readonly soundEndSeconds: number;
  readonly loudnessLufs: number | null;
  readonly peakDbfs: number | null;
  readonly overview: Uint8Array;
  readonly onsetFrames: readonly number[];
  readonly tuningCents: number;
  readonly chroma: readonly number[];
}

export interface Analysis {
  readonly evidence: readonly Evidence[];
  readonly measures: Measures;
}

export const overviewColumns = 240;

/** Everything the first version knows of a sound at the project's rate. `path` is the vendor's, with folders. */
export function analyseAudio(pcm: PcmAudio, path: string, tags: EmbeddedTags): Analysis {
  const mono = toMono(pcm.channels);
  const region = musicRegion(pcm.channels, pcm.sampleRateHz);
  const pitch = chroma(mono, pcm.sampleRateHz);
  const envelope = onsetEnvelope(mono, pcm.sampleRateHz);
  const onsetFrames = detectOnsets(pcm.channels, pcm.sampleRateHz);
  const keys = estimateKey(pitch.whole, pitch.bass, pitch.pitchedness);
  const pitched = keys[0]
    ? keys.filter((each) => each.value !== 'unpitched').reduce((sum, each) => sum + each.probability, 0) > 0.5
    : false;
  const named = [...evidenceFromTags(tags), ...evidenceFromPath(path)];
  const namedTempos = named
    .filter((each): each is Evidence<'tempo'> => each.attribute === 'tempo')
    .flatMap((each) => each.candidates.map((candidate) => candidate.value));
  const leadSeconds = leadOfBar(region, namedTempos),
    seconds = musicSeconds(leadSeconds, region.fileSeconds);
  const byLength = lengthCandidates(seconds);
  const bySound = estimateTempo(envelope, [...byLength.map((each) => each.tempoBpm), ...namedTempos]);
  const barFit = Math.max(0, ...byLength.map((each) => wholeness(each.tempoBpm, seconds)));
  const soundSeconds = Math.max(0.05, region.soundEndSeconds - region.leadSeconds);
  const kinds = estimateKind({ region, onsetCount: onsetFrames.length, barFit, endLevelDb: endLevelDb(mono), pitched });
  const instrument = estimateInstrument(
    measureTimbre(mono, pcm.sampleRateHz),
    pitched,
    pitch.centreNote,
    onsetFrames.length / soundSeconds,
  );
  const lengthReason = byLength[0]
    ? `length fits ${byLength[0].bars} ${byLength[0].bars === 1 ? 'bar' : 'bars'} at ${byLength[0].tempoBpm.toFixed(2)}`
    : '';
  return {
    evidence: [
      ...named,
      ...(byLength.length
        ? [
            evidence(
              'tempo',
              'length',
              byLength.map((each) => ({ value: each.tempoBpm, probability: each.probability })),
              lengthReason,
            ),
          ]
        : []),
      ...(bySound.length ? [evidence('tempo', 'sound', bySound, `onsets repeat at ${bySound[0].value.toFixed(1)}`)] : []),
      evidence('meter', 'length', meterChances(byLength), 'most loops of this length'),
      evidence('key', 'sound', keys, keys[0]?.value === 'unpitched' ? 'no steady tones heard' : 'notes heard'),
      evidence(
        'kind',
        'sound',
        kinds,
        `${onsetFrames.length} ${onsetFrames.length === 1 ? 'hit' : 'hits'} in ${soundSeconds.toFixed(1)} s`,
      ),
      evidence('instrument', 'sound', instrument, 'colour of the sound'),
    ],
    measures: {
      lengthSeconds: lengthFrames(pcm) / pcm.sampleRateHz,
      leadSeconds,
      soundEndSeconds: region.soundEndSeconds,
      loudnessLufs: integratedLoudness(pcm.channels, pcm.sampleRateHz),
      peakDbfs: samplePeakDbfs(pcm.channels),
      overview: overviewPeaks(pcm.channels, overviewColumns),
      onsetFrames,
      tuningCents: pitch.tuningCents,
      chroma: [...pitch.whole],
    },
  };
}

const leadThatCounts = 0.03;

/**
 * Silence in front that does not belong to the music: a pattern that begins on the second beat is silent on the first. It is
 * taken off when the rest fits whole bars better, at a named tempo or at a whole one.
 */
function leadOfBar(region: MusicRegion, namedTempos: readonly number[]): number {
  if (region.leadSeconds < leadThatCounts) return 0;
  const fit = (seconds: number) => {
    const byName = namedTempos.some((tempoBpm) => {
      const beats = (seconds * tempoBpm) / 60;
      return beats > 1 && Math.abs(beats - Math.round(beats)) < 0.03;
    })
      ? 1
      : 0;
    return byName + Math.max(0, ...lengthCandidates(seconds).map((each) => wholeness(each.tempoBpm, seconds)));
  };
  return fit(region.fileSeconds - region.leadSeconds) > fit(region.fileSeconds) ? region.leadSeconds : 0;
}

/** The stretch that may be whole bars: the file, less a leading silence of 30 ms and more. */
export function musicSeconds(leadSeconds: number, fileSeconds: number): number {
  return leadSeconds >= leadThatCounts ? fileSeconds - leadSeconds : fileSeconds;
}

/** Where bar 1 begins, in seconds of the file. */
export function loopStartSeconds(leadSeconds: number): number {
  return leadSeconds >= leadThatCounts ? leadSeconds : 0;
}

function meterChances(candidates: readonly { meter: string; probability: number }[]): { value: string; probability: number }[] {
  const sums = new Map<string, number>();
  for (const { meter, probability } of candidates) sums.set(meter, (sums.get(meter) ?? 0) + probability);
  return sums.size ? [...sums].map(([value, probability]) => ({ value, probability })) : [{ value: '4/4', probability: 0.9 }];
}
