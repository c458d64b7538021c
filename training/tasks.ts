import { ensembleLogits, type Ensemble } from '../core/analysis/learned/network';
import { instrumentsHeard, instrumentById, soundOf, families } from '../core/theory/instruments';
import { type Example } from './features-file';
import { inputOf, rhythmRow } from './inputs';
import { model } from '../core/analysis/learned/models';
import { isKnownMeter } from '../core/analysis/tempo/candidates';
import { usualRow } from '../core/analysis/tempo/odd-bars';
import { widened, type Group, type Recipe } from './learn';

/** What one network is to learn, and how it is judged. */
export interface Task {
  readonly labels: readonly string[];
  readonly recipe: Omit<Recipe, 'seed'>;
  readonly groups: (examples: readonly Example[]) => { group: Group; example: Example }[];
  /** Whether the answer to a group is right, and how sure it was; null where it is not scored. */
  readonly judge: (probabilities: Float32Array, example: Example) => { right: boolean; sure: number; note?: string } | null;
}

const oneHot = (count: number, at: number): Float32Array => {
  const out = new Float32Array(count);
  out[at] = 1;
  return out;
};
const best = (list: Float32Array): number => list.indexOf(list.reduce((a, b) => Math.max(a, b), -Infinity));

/** Label smoothing, so that a network does not claim certainty where sources overlap. */
const smooth = (targets: Float32Array, amount: number): Float32Array =>
  targets.map((value) => value * (1 - amount) + amount / targets.length);

function classifier(
  what: string,
  labels: readonly string[],
  labelOf: (example: Example) => string | null,
  recipe: Partial<Task['recipe']>,
  /** How far rare labels are weighed up: 0 not at all, 1 until all count alike. */
  balance = 0.5,
  /** What a single sound weighs against a loop: a hit of a stranger is harder to name than a loop of his. */
  singleWeight = 1,
): Task {
  return {
    labels,
    recipe: { hidden: 24, outputs: labels.length, epochs: 24, rate: 0.003, decay: 0.002, noise: 0.5, dropout: 0.2, mixup: 0.6, ...recipe },
    groups: (examples) => {
      const list = examples.flatMap((example) => {
        const label = labelOf(example),
          at = label === null ? -1 : labels.indexOf(label);
        return at < 0 ? [] : [{ at, example }];
      });
      const counts = labels.map((_, k) => list.filter(({ at }) => at === k).length);
      return list.map(({ at, example }) => ({
        example,
        group: {
          rows: [inputOf(what, example)],
          targets: smooth(oneHot(labels.length, at), 0.04),
          weight:
            Math.min(balance < 1 ? 3 : Infinity, (list.length / labels.length / counts[at]) ** balance) *
            (example.truth.isLoop ? 1 : singleWeight),
        },
      }));
    },
    judge: (probabilities, example) => {
      const label = labelOf(example);
      if (label === null || !labels.includes(label)) return null;
      const at = best(probabilities);
      return { right: labels[at] === label, sure: probabilities[at], note: labels[at] === label ? undefined : `${label} → ${labels[at]}` };
    },
  };
}

export const oddRows = (example: Example): Float32Array[] =>
  example.odd.map((_, k) => example.numbers(example.oddAt + k * example.oddCount, example.oddCount));

const sameTempo = (a: number, b: number): boolean => Math.abs(a / b - 1) < 0.004;

/**
 * The rhythm networks of the weights in place, for rows of so many inputs: features that were added since are unknown to them (they come
 * before the chances of the families); when features were taken away they have no say.
 */
let rhythmInPlace: { readonly inputs: number; readonly ensemble: Ensemble | null } | null = null;
export function knownRhythm(inputs: number): Ensemble | null {
  if (rhythmInPlace?.inputs !== inputs) {
    const placed = model('rhythm'),
      extra = inputs - placed.mean.length;
    rhythmInPlace = { inputs, ensemble: extra < 0 ? null : widened(placed, placed.mean.length - model('family').labels.length, extra) };
  }
  return rhythmInPlace.ensemble;
}

/**
 * Many units of which half sit out each step, held by decay instead of by noise and blends: with as much noise as was thought to be needed
 * against learning sources by heart, loops of sources that had been seen were named worse (86 instead of 92 %), and those of unseen ones no
 * better.
 */
const wide: Partial<Task['recipe']> = { noise: 0.05, mixup: 0, dropout: 0.5, decay: 0.02 };

export const tasks: Readonly<Record<string, () => Task>> = {
  family: () => classifier('family', Object.keys(families), ({ truth }) => truth.family, { ...wide, hidden: 256, epochs: 32 }, 0.5, 3),
  instrument: () =>
    classifier(
      'instrument',
      instrumentsHeard.map(({ id }) => id),
      ({ truth }) => (instrumentById(truth.instrument) ? soundOf(truth.instrument) : null),
      { ...wide, hidden: 256, epochs: 32 },
      0.5,
      3,
    ),
  loop: () =>
    classifier('loop', ['one-shot', 'loop'], ({ truth }) => (truth.loopScored === false ? null : truth.isLoop ? 'loop' : 'one-shot'), {
      hidden: 24,
    }),
  home: () =>
    classifier(
      'home',
      ['home', 'homeless'],
      ({ truth }) => (truth.keyStatus === 'none' ? 'homeless' : truth.key && truth.keyStatus !== 'atonal' ? 'home' : null),
      { hidden: 12, noise: 0.1, mixup: 0, dropout: 0.1 },
      1,
    ),
  pitched: () =>
    classifier('pitched', ['unpitched', 'pitched'], ({ truth }) => (truth.keyStatus === 'atonal' ? 'unpitched' : 'pitched'), {
      ...wide,
      hidden: 48,
    }),
  key: () => ({
    labels: ['major', 'minor'],
    // One row a tonic, two outputs: trained as a classifier of 24 by unrolling rows; see below.
    recipe: { hidden: 80, outputs: 2, epochs: 5, rate: 0.003, decay: 0.002, noise: 0.3, dropout: 0.3 },
    groups: (examples) =>
      examples
        .filter(({ truth }) => truth.key && truth.keyStatus !== 'atonal' && truth.keyStatus !== 'ambiguous')
        .map((example) => {
          const { key, keyStatus } = example.truth,
            targets = new Float32Array(24);
          for (const mode of ['major', 'minor'] as const)
            if (key) targets[key.tonic * 2 + (mode === 'minor' ? 1 : 0)] = keyStatus === 'tonicOnly' ? 0.5 : key.mode === mode ? 1 : 0;
          return {
            example,
            group: {
              rows: Array.from({ length: 12 }, (_, tonic) => example.numbers(example.keyAt + tonic * example.keyCount, example.keyCount)),
              targets: smooth(targets, 0.03),
              weight: keyStatus === 'tonicOnly' ? 0.4 : 1,
            },
          };
        }),
    judge: (probabilities, { truth }) => {
      if (truth.keyStatus !== 'clear' || !truth.key) return null;
      const at = best(probabilities),
        right = Math.floor(at / 2) === truth.key.tonic && (at % 2 === 1) === (truth.key.mode === 'minor');
      return {
        right,
        sure: probabilities[at],
        note: right ? undefined : `${truth.key.mode} +${(Math.floor(at / 2) - truth.key.tonic + 12) % 12} ${at % 2 ? 'minor' : 'major'}`,
      };
    },
  }),
  rhythm: () => ({
    labels: ['score'],
    recipe: { hidden: 72, outputs: 1, epochs: 16, rate: 0.003, decay: 0.002, noise: 0.1, dropout: 0.2 },
    groups: (examples) =>
      examples.flatMap((example) => {
        const { truth, candidates } = example;
        if (!truth.isLoop || !truth.tempo || !candidates.length) return [];
        const tempo = truth.tempo,
          exact = candidates.map(([tempoBpm, bars, meter, start]) =>
            Math.abs(tempoBpm / tempo - 1) < 0.003 &&
            bars === truth.bars &&
            meter === truth.meter &&
            Math.abs(start - truth.leadSec) < 0.012
              ? 1 / (1 + 2000 * Math.abs(tempoBpm / tempo - 1))
              : 0,
          ),
          sum = exact.reduce((a, b) => a + b, 0);
        if (sum === 0) return [];
        // Of well over a hundred readings most are out of the question: the right ones, the likeliest by the last weights, and a few others.
        const before = knownRhythm(rhythmRow(example, 0).length),
          knows = before !== null,
          last = candidates.map((_, k) => (before ? ensembleLogits(before, rhythmRow(example, k))[0] : 0)),
          order = candidates.map((_, k) => k).sort((a, b) => last[b] - last[a]),
          kept = order.filter((k, place) => !knows || exact[k] > 0 || place < 32 || place % 8 === 0);
        return [
          {
            example,
            group: {
              rows: kept.map((k) => rhythmRow(example, k)),
              targets: Float32Array.from(kept, (k) => exact[k] / sum),
              weight: truth.tempoScored ? 1 : 0.3,
            },
          },
        ];
      }),
    judge: (probabilities, { truth, candidates }) => {
      if (!truth.tempoScored || !truth.tempo) return null;
      // The tempo with most probability over all its readings.
      const sums = candidates.map(([tempoBpm]) =>
          candidates.reduce((sum, [other], k) => sum + (sameTempo(tempoBpm, other) ? probabilities[k] : 0), 0),
        ),
        at = sums.indexOf(Math.max(...sums)),
        reading = candidates.map((each, k) => (sameTempo(each[0], candidates[at][0]) ? probabilities[k] : -1)),
        [tempoBpm, bars, meter] = candidates[reading.indexOf(Math.max(...reading))];
      const right = Math.abs(tempoBpm / truth.tempo - 1) <= 0.005;
      const ratio = tempoBpm / truth.tempo;
      return {
        right,
        sure: Math.min(1, sums[at]),
        note:
          `${right ? '' : `tempo × ${ratio.toFixed(2)} `}${bars === truth.bars ? '' : `bars ${truth.bars} → ${bars} `}${meter === truth.meter ? '' : `meter ${truth.meter} → ${meter}`}`.trim() ||
          undefined,
      };
    },
  }),
  meter: () => ({
    labels: ['score'],
    recipe: { hidden: 24, outputs: 1, epochs: 24, rate: 0.003, decay: 0.01, noise: 0.1, dropout: 0.2 },
    groups: (examples) =>
      examples.flatMap((example) => {
        const { truth, odd } = example;
        if (!truth.isLoop || !truth.tempo || !odd.length) return [];
        const { tempo, bars, beats, leadSec } = truth,
          usual = isKnownMeter(truth.meter ?? ''),
          exact = odd.map(([tempoBpm, counted, barBeats, start]) =>
            !usual &&
            Math.abs(tempoBpm / tempo - 1) < 0.003 &&
            counted === bars &&
            counted * barBeats === beats &&
            Math.abs(start - leadSec) < 0.012
              ? 1
              : 0,
          ),
          targets = [usual ? 1 : 0, ...exact],
          sum = targets.reduce((a, b) => a + b, 0);
        if (sum === 0) return [];
        return [
          {
            example,
            group: {
              rows: [Float32Array.from(usualRow), ...oddRows(example)],
              targets: Float32Array.from(targets, (each) => each / sum),
              weight: 1,
            },
          },
        ];
      }),
    judge: (probabilities, { truth }) => {
      const usual = isKnownMeter(truth.meter ?? ''),
        found = probabilities[0] >= 0.5;
      return {
        right: usual === found,
        sure: Math.max(probabilities[0], 1 - probabilities[0]),
        note: usual === found ? undefined : usual ? `${truth.style} in ${truth.meter} said to be odd` : `${truth.meter} not found`,
      };
    },
  }),
};
