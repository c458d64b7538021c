import { createStore } from 'zustand/vanilla';
import type { Step, StepKind } from '~core/workbench/steps';
import type { BenchSetting } from '~core/workbench/steps';
import { nothingCleaned } from '~core/workbench/clean';
import type { PartStep } from '~core/workbench/part';
import { isTail } from '~core/stretch/cycle';
import { beatToFrame, projectRateHz, secondsToBeats, tempoFromLength } from '~core/units/time';
import type { BenchReply, ShownSound } from '~workers/bench-protocol';
import { benchWorker } from './bench-worker';

type Made = Extract<BenchReply, { ok: true }>['made'];

export interface BenchState {
  readonly steps: readonly Step[];
  /** Which step is worked at; null for none: what comes off the bench is shown. */
  readonly chosen: number | null;
  readonly shown: ShownSound | null;
  readonly made: Made | null;
  readonly isBusy: boolean;
  readonly trouble: string | null;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
}

/** From the first bar to the end of the last, as far as that is known and there. */
function barsOf({ startFrame, tempoBpm, beats, channels }: ShownSound): Pick<PartStep, 'fromFrame' | 'toFrame' | 'beats'> {
  const total = channels[0].length,
    end = tempoBpm && beats ? startFrame + beatToFrame(beats, tempoBpm, projectRateHz) : total,
    // A file that is short by a little ends with itself.
    isThere = end <= total + 32;
  return { fromFrame: startFrame, toFrame: Math.min(total, end), beats: isThere ? beats : null };
}

/** A step as it begins: it changes nothing yet, or what one wants of it as a rule. */
export function newStep(kind: StepKind, shown: ShownSound): Step {
  switch (kind) {
    case 'part': {
      const bars = barsOf(shown);
      return { kind, ...bars, wrapsTail: bars.beats !== null && isTail(shown.channels, bars.fromFrame, bars.toFrame - bars.fromFrame) };
    }
    case 'clean':
      return nothingCleaned;
    case 'grid':
      return { kind, strength: 1, stepsPerBeat: 4, swing: 0.5, byHand: [], keeps: 'hits' };
    case 'retune':
      return { kind, semitones: 0, keepsFormants: false, formantSemitones: 0 };
    case 'line':
      return { kind, strength: 1, straightness: 0.5, key: shown.key, moves: {}, formantSemitones: 0 };
    case 'slices':
      return { kind, stepsPerBeat: 4, hits: [] };
    case 'layers':
      return { kind, layers: [{ semitones: 0, gainDb: 0, pan: 0, delayBeats: 0, lowCutHz: null }] };
  }
}

/** One loop on the bench: the steps, what they come to, and the way back. What is computed is computed in a worker. */
export class Bench {
  readonly store = createStore<BenchState>(() => ({
    steps: [],
    chosen: null,
    shown: null,
    made: null,
    isBusy: true,
    trouble: null,
    canUndo: false,
    canRedo: false,
  }));
  private worker: Worker | null = null;
  private past: (readonly Step[])[] = [];
  private future: (readonly Step[])[] = [];
  private asked = 0;

  constructor(
    private readonly url: string,
    private readonly setting: BenchSetting,
    private readonly memory: string,
    private readonly newWorker: () => Worker = benchWorker,
  ) {}

  /** Begins, with what was on the bench before. In a browser only. */
  open(): void {
    this.worker = this.newWorker();
    this.worker.onmessage = ({ data }: MessageEvent<BenchReply>) => {
      if (data.id !== this.asked) return;
      if (data.ok) this.store.setState({ shown: data.shown, made: data.made, isBusy: false, trouble: null });
      else this.store.setState({ isBusy: false, trouble: data.message });
    };
    this.worker.onerror = () => this.store.setState({ isBusy: false, trouble: 'That could not be done.' });
    this.store.setState({ steps: this.recall() });
    this.work();
  }

  /** What was on the bench before the page was loaded anew. */
  private recall(): readonly Step[] {
    try {
      const kept: unknown = JSON.parse(sessionStorage.getItem(this.memory) ?? '[]');
      return Array.isArray(kept) ? (kept as Step[]) : [];
    } catch {
      return [];
    }
  }

  close(): void {
    this.worker?.terminate();
    this.worker = null;
  }

  private work(): void {
    const { steps, chosen } = this.store.getState();
    this.store.setState({ isBusy: true, canUndo: this.past.length > 0, canRedo: this.future.length > 0 });
    this.worker?.postMessage({
      id: ++this.asked,
      url: this.url,
      steps,
      setting: this.setting,
      shownSteps: chosen ?? steps.length,
      withLine: chosen !== null && steps[chosen]?.kind === 'line',
    });
  }

  private put(steps: readonly Step[], chosen: number | null): void {
    sessionStorage.setItem(this.memory, JSON.stringify(steps));
    this.store.setState({ steps, chosen });
    this.work();
  }

  /** Other steps, as one that can be taken back. `goesOn`: of the same drag as the last. */
  change(steps: readonly Step[], chosen = this.store.getState().chosen, goesOn = false): void {
    const now = this.store.getState().steps;
    if (!goesOn || this.past.length === 0) this.past = [...this.past.slice(-99), now];
    this.future = [];
    this.put(steps, chosen);
  }

  setStep(index: number, step: Step, goesOn = false): void {
    this.change(this.store.getState().steps.with(index, step), undefined, goesOn);
  }

  add(kind: StepKind): void {
    const { steps, shown } = this.store.getState();
    if (shown) this.change([...steps, newStep(kind, shown)], steps.length);
  }

  remove(index: number): void {
    this.change(this.store.getState().steps.toSpliced(index, 1), null);
  }

  move(index: number, by: 1 | -1): void {
    const { steps } = this.store.getState(),
      to = index + by;
    if (to < 0 || to >= steps.length) return;
    this.change(steps.toSpliced(index, 1).toSpliced(to, 0, steps[index]), to);
  }

  choose(index: number | null): void {
    this.store.setState({ chosen: index });
    this.work();
  }

  undo(): void {
    const before = this.past.pop();
    if (!before) return;
    this.future.push(this.store.getState().steps);
    this.put(before, null);
  }

  redo(): void {
    const next = this.future.pop();
    if (!next) return;
    this.past.push(this.store.getState().steps);
    this.put(next, null);
  }
}

/** A beat is met when a part ends this near to it, in beats. */
const nearBeat = 0.02;

/**
 * A part whose start or end is moved. As long as it is at the tempo that is known, that tempo stays and its beats follow: whole ones, or none; where
 * somebody said how many bars it is, those stay and the tempo follows.
 */
export function withHandle(
  step: PartStep,
  knownTempoBpm: number | null,
  moved: Partial<Pick<PartStep, 'fromFrame' | 'toFrame'>>,
): PartStep {
  const next = { ...step, ...moved },
    secondsOf = ({ fromFrame, toFrame }: PartStep) => (toFrame - fromFrame) / projectRateHz,
    isOfKnownTempo =
      knownTempoBpm !== null &&
      (step.beats === null || Math.abs(tempoFromLength(step.beats, Math.max(0.01, secondsOf(step))) / knownTempoBpm - 1) < 0.005);
  if (!isOfKnownTempo || next.toFrame <= next.fromFrame) return next;
  const beats = secondsToBeats(secondsOf(next), knownTempoBpm);
  return { ...next, beats: beats >= 1 - nearBeat && Math.abs(beats - Math.round(beats)) < nearBeat ? Math.round(beats) : null };
}
