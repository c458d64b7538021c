import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { cutsOf } from '../../core/analysis/onsets/cuts';
import { onsetRises } from '../../core/analysis/onsets/onsets';
import { chooseStretchMode } from '../../core/arrangement/fit-request';
import { resampleCycle } from '../../core/dsp/resample';
import { parseWav } from '../../core/formats/wav/parse';
import { extractCycle } from '../../core/stretch/cycle';
import type { StretchMode } from '../../core/stretch/stretch-modes';
import { withFaintHits } from '../../core/stretch/faint-hits';
import { instrumentById } from '../../core/theory/instruments';
import { beatsPerBar, framesPerBeat } from '../../core/units/time';
import type { FileSpec } from '../../demo/catalogue';
import { demoPacks } from '../../demo/packs';
import { renderAudio } from '../../demo/render';

const rateHz = 44100;

/** One specimen as the application would cut it, and the engine it would choose. */
export interface Specimen {
  readonly name: string;
  readonly stretchMode: StretchMode;
  readonly cycle: readonly Float32Array[];
  readonly beats: number;
}

/** Where a specimen is cut: what the application keeps of its hits. */
export function onsetsOf({ cycle, beats }: Specimen, engine: StretchMode): readonly number[] {
  const { clearFrames, faintFrames } = cutsOf(onsetRises(cycle, rateHz), cycle);
  return engine === 'percussive' ? withFaintHits(clearFrames, faintFrames, cycle[0].length, beats, rateHz) : clearFrames;
}

export const demoLoops = (): readonly FileSpec[] =>
  demoPacks()
    .flatMap((pack) => pack.files)
    .filter(({ format, truth }) => format !== 'midi' && truth.tempoBpm !== null && truth.bars !== null);

/** How long a demo loop lasts as it was played. */
export const secondsOf = ({ truth }: FileSpec): number => ((truth.bars ?? 0) * beatsPerBar(truth.meter) * 60) / (truth.tempoBpm as number);

/** A demo loop as it is heard after import: at the project's rate, one specimen, its tail folded in. */
export function demoSpecimen(spec: FileSpec): Specimen {
  const { channels, sampleRateHz } = renderAudio(spec),
    atRate = sampleRateHz === rateHz ? channels : resampleCycle(channels, Math.round((channels[0].length * rateHz) / sampleRateHz)),
    beats = (spec.truth.bars as number) * beatsPerBar(spec.truth.meter),
    cycleFrames = Math.round(beats * framesPerBeat(spec.truth.tempoBpm as number, rateHz)),
    family = instrumentById(spec.truth.instrument)?.family ?? null;
  return {
    name: spec.path.split('/').at(-1) as string,
    stretchMode: chooseStretchMode({ family: spec.player === 'mix' ? 'mix' : family, pitched: spec.truth.key !== null }),
    cycle: extractCycle(atRate, Math.round((spec.trouble.leadSeconds ?? 0) * rateHz), cycleFrames),
    beats,
  };
}

const beatFrames = 22050,
  cycleOf = (seconds: number, at: (i: number) => number): Float32Array =>
    Float32Array.from({ length: Math.round(seconds * rateHz) }, (_, i) => at(i)),
  hitsAt = (hz: number, phase: number, decayFrames: number): Float32Array =>
    cycleOf(2, (frame) => {
      const i = frame % beatFrames;
      return 0.7 * Math.exp(-i / decayFrames) * Math.sin((2 * Math.PI * hz * (1 + 2 * Math.exp(-i / 600)) * i) / rateHz + phase);
    });

/** What no vendor delivers, and what some do: hits on the very first frame, silence, DC, a lone click, full scale, a specimen of 300 ms. */
export const madeUpSpecimens = (): readonly Specimen[] =>
  [
    ...[0, 0.5, 1, 1.57].map((phase, n): [string, Float32Array] => [
      `hits on the first frame ${n}`,
      hitsAt(45 + 60 * n, phase, 2000 + 900 * n),
    ]),
    ['silence', cycleOf(2, () => 0)] as const,
    ['DC', cycleOf(2, () => 0.4)] as const,
    ['a lone click', cycleOf(2, (i) => (i === 30000 ? 0.9 : 0))] as const,
    ['a lone click on the first frame', cycleOf(2, (i) => (i === 0 ? 0.9 : 0))] as const,
    ['a full-scale square', cycleOf(2, (i) => (i % 200 < 100 ? 1 : -1))] as const,
    ['a specimen of 300 ms', cycleOf(0.3, (i) => 0.6 * Math.exp(-i / 2500) * Math.sin((2 * Math.PI * 70 * i) / rateHz + 1))] as const,
    [
      'a tone that does not fit into its specimen',
      cycleOf(2.0113, (i) => 0.5 * Math.sin((2 * Math.PI * 110.37 * i) / rateHz + 0.9)),
    ] as const,
  ].map(([name, plane]) => ({
    name: name as string,
    stretchMode: 'percussive',
    cycle: [plane as Float32Array, (plane as Float32Array).slice()],
    beats: 4,
  }));

interface OutsideFile {
  readonly file: string;
  readonly isLoop: boolean;
  readonly tempo: number | null;
  readonly family: string;
  readonly meter: string;
  readonly musicSec: number;
  readonly leadSec?: number;
  readonly beats: number;
}
const engineOfFamily: Readonly<Record<string, StretchMode>> = {
  drums: 'percussive',
  percussion: 'percussive',
  voice: 'voice',
  mix: 'mixed',
};

/** Loops of a set with truth that lies in a folder: WAV files and `truth.json`. */
export function outsideSpecimens(folder: string, most: number): Specimen[] {
  const { files } = JSON.parse(readFileSync(join(folder, 'truth.json'), 'utf8')) as { files: OutsideFile[] },
    specimens: Specimen[] = [];
  for (const each of files) {
    if (specimens.length >= most) break;
    if (!each.isLoop || !each.tempo || !each.file.endsWith('.wav')) continue;
    const { channels, sampleRateHz } = parseWav(new Uint8Array(readFileSync(join(folder, each.file)))),
      cycleFrames = Math.round(each.musicSec * sampleRateHz),
      leadFrames = Math.round((each.leadSec ?? 0) * sampleRateHz);
    if (sampleRateHz !== rateHz || channels[0].length < leadFrames + cycleFrames) continue;
    specimens.push({
      name: each.file,
      stretchMode: engineOfFamily[each.family] ?? 'tonal',
      cycle: channels.slice(0, 2).map((plane) => plane.slice(leadFrames, leadFrames + cycleFrames)),
      beats: each.beats,
    });
  }
  return specimens;
}
