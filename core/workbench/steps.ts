import { projectRateHz, tempoFromLength } from '../units/time';
import { clean, type CleanStep } from './clean';
import type { BenchSetting, BenchSound } from './bench-sound';
import { layered, type LayersStep } from './layers';
import { takePart, type PartStep } from './part';
import { retune, retuneLine, type LineStep, type RetuneStep } from './retune';
import { playSlices, type SlicesStep } from './slices';
import { toGrid, type GridStep } from './to-grid';

export type { BenchSetting, BenchSound } from './bench-sound';

/** What is done to a sound on the bench: a list of steps that can be changed and taken back; the vendor's file is never touched. */
export type Step = PartStep | CleanStep | GridStep | RetuneStep | LineStep | SlicesStep | LayersStep;
export type StepKind = Step['kind'];

const appliers: { readonly [K in StepKind]: (sound: BenchSound, step: Extract<Step, { kind: K }>) => BenchSound } = {
  part: takePart,
  clean,
  grid: toGrid,
  retune,
  line: retuneLine,
  slices: playSlices,
  layers: layered,
};

/** A sound after one step. */
export const applyStep = (sound: BenchSound, step: Step): BenchSound =>
  (appliers[step.kind] as (sound: BenchSound, step: Step) => BenchSound)(sound, step);

/**
 * A sound after all steps, in their order. `loadTransforms` comes first.
 * @param channels `[channel][frame]` at the project's rate; they are not written into
 * @throws {RangeError} where a step asks for what cannot be
 */
export const applySteps = (channels: readonly Float32Array[], steps: readonly Step[], setting: BenchSetting): BenchSound =>
  steps.reduce(applyStep, { ...setting, channels } as BenchSound);

/** How far a setting goes with the steps, without making them: its tempo and beats. */
export const settingAfter = (steps: readonly Step[], setting: BenchSetting): Pick<BenchSetting, 'tempoBpm' | 'beats' | 'key'> => ({
  tempoBpm: setting.tempoBpm,
  beats: setting.beats,
  key: setting.key,
  ...steps.reduce<Partial<BenchSetting>>((known, step) => {
    if (step.kind === 'part' && step.beats !== null)
      return {
        ...known,
        beats: step.beats,
        tempoBpm: tempoFromLength(step.beats, Math.max(1, step.toFrame - step.fromFrame) / projectRateHz),
      };
    if (step.kind === 'retune' && setting.key) {
      const { tonic, mode } = known.key ?? setting.key;
      return { ...known, key: { mode, tonic: (((tonic + Math.round(step.semitones)) % 12) + 12) % 12 } };
    }
    return known;
  }, {}),
});
