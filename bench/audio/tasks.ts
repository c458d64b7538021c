import type { StretchMode } from '../../core/stretch/stretch-modes';
import { seamDb } from '../../test/generators/signals';
import type { LoopSpec, Material } from './loops';
import { attackMs, audibleHits, hitErrorMs, median, mono, preEchoDb, spectralDistanceDb } from '../../test/measures/measures';
import type { Rendered } from './render';

export const mildRatios = [0.8, 1.25, 0.9, 1.1],
  farRatios = [1.5, 0.5, 2, 0.667],
  shiftsSemitones = [5, -5, 2, -3, 12, -12];

export interface Task {
  readonly spec: LoopSpec;
  readonly kind: 'mild' | 'far' | 'shift';
  readonly ratio: number;
  readonly shiftSemitones: number;
}

/** What each loop is asked for: a mild change of tempo, a far one, and for what has a pitch a shift. */
export function tasksOf(spec: LoopSpec, index: number): Task[] {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(index / 2) % list.length];
  return [
    { spec, kind: 'mild', ratio: pick(mildRatios), shiftSemitones: 0 },
    { spec, kind: 'far', ratio: pick(farRatios), shiftSemitones: 0 },
    ...(spec.material === 'percussive' ? [] : [{ spec, kind: 'shift' as const, ratio: 1, shiftSemitones: pick(shiftsSemitones) }]),
  ];
}

/** The engine that the application chooses for a material. */
export const engineOf: Readonly<Record<Material, StretchMode>> = {
  percussive: 'percussive',
  tonal: 'tonal',
  mixed: 'mixed',
  voice: 'voice',
};

export interface Row {
  readonly task: Task;
  readonly maker: string;
  /** Where a sound begins, in ms after where it should; empty for shifted ones, whose drums the truth does not shift. */
  readonly hitErrorsMs: readonly number[];
  readonly attackExcessMs: number;
  readonly preEchoExcessDb: number;
  readonly distanceDb: number;
  readonly seamDb: number;
  readonly cpuSeconds: number;
  readonly seconds: number;
}

export function measure(task: Task, maker: string, made: readonly Float32Array[], truth: Rendered, cpuSeconds: number): Row {
  const wanted = mono(truth.sound),
    found = mono(made),
    hits = task.kind === 'shift' ? [] : audibleHits(wanted, truth.hitFrames);
  return {
    task,
    maker,
    hitErrorsMs: hits.map((frame) => hitErrorMs(wanted, found, frame)),
    attackExcessMs: hits.length ? median(hits.map((frame) => attackMs(found, frame) - attackMs(wanted, frame))) : NaN,
    preEchoExcessDb: hits.length ? median(hits.map((frame) => preEchoDb(found, frame) - preEchoDb(wanted, frame))) : NaN,
    distanceDb: spectralDistanceDb(wanted, found),
    // A hit on the very first frame is no click: what the truth has there is not counted.
    seamDb: Math.max(...made.map(seamDb)) - Math.max(0, ...truth.sound.map(seamDb)),
    cpuSeconds,
    seconds: wanted.length / 44100,
  };
}
