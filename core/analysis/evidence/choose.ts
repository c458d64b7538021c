import { families as familyNames, instrumentById } from '../../theory/instruments';
import { beatsPerBar, beatsToSeconds, secondsToBeats, tempoFromLength } from '../../units/time';
import type { SettledValues } from '../attributes/attribute';
import { isKey } from '../attributes/key';
import { attributes, type FactValues } from '../attributes/registry';
import { evidence, sameValue, type Attribute, type Evidence } from '../facts';
import { isWord } from '../sources';
import { beatsFromTempo } from '../tempo/length-candidates';
import type { Reading } from '../tempo/read-rhythm';
import { fuse, type Chosen } from './fuse';
import { instrumentChances } from './instrument-chances';

/** The chosen values of a loop, as search, fitting and the ear use them. */
export interface LoopFacts extends SettledValues {
  readonly chosen: ChosenFacts;
}
export type ChosenFacts = { readonly [A in Attribute]?: Chosen<A> };

/** What is chosen together, by the rules below; every other attribute is for itself. */
const composed: ReadonlySet<Attribute> = new Set<Attribute>(['kind', 'tempo', 'beats', 'meter', 'start', 'key', 'instrument']);

/**
 * All evidence of a loop to one set of facts. Tempo, beats and meter are chosen together: what has no repeat has no tempo;
 * the beats follow from tempo and length unless somebody says otherwise; a person's beats in turn give the tempo.
 */
export const chooseFacts = (all: readonly Evidence[], measured: Measured): LoopFacts =>
  withFillsLanding(chooseAll(all, measured), all, measured);

interface Measured {
  readonly firstBarSeconds: number;
  readonly lengthSeconds: number;
  readonly readings?: readonly Reading[];
}

function chooseAll(all: readonly Evidence[], measured: Measured): LoopFacts {
  const kind = fuse('kind', all);
  const instrument = chooseInstrument(all);
  const found = instrumentById(instrument?.value ?? null);
  const key = fuse(
    'key',
    instrument && found && (found.family === 'drums' || found.family === 'percussion')
      ? [
          ...all,
          evidence(
            'key',
            isWord(instrument.source) ? 'file-name' : instrument.source,
            [{ value: 'unpitched', probability: 0.96 * instrument.confidence }],
            `${found.label.toLowerCase()} has no key`,
          ),
        ]
      : all,
  );
  const common = {
    kind: kind?.value ?? 'phrase',
    key: key && isKey(key.value) ? key.value : null,
    pitched: key ? key.value !== 'unpitched' : null,
    instrument: found && instrument && isNamed(instrument, all) ? found.id : null,
    family: found?.family ?? null,
  } as const;
  const others = Object.fromEntries(
      attributes
        .filter((each) => !composed.has(each))
        .flatMap((each) => [fuse(each, all)].flatMap((found) => (found ? [[each, found]] : []))),
    ) as ChosenFacts,
    always = { ...others, ...(kind && { kind }), ...(key && { key }), ...(instrument && { instrument }) };
  if (common.kind === 'one-shot' || common.kind === 'phrase') {
    // What does not repeat has a tempo only if somebody says so: then it can follow.
    const tempo =
      common.kind === 'phrase'
        ? fuse(
            'tempo',
            all.filter((each) => isWord(each.source)),
          )
        : null;
    return {
      ...common,
      tempoBpm: tempo?.value ?? null,
      beats: null,
      bars: null,
      meter: null,
      firstBarSeconds: 0,
      chosen: { ...always, ...(tempo && { tempo }) },
    };
  }
  const rhythm = chooseRhythm(all, measured);
  return { ...common, ...rhythm, chosen: { ...always, ...rhythm.chosen } };
}

/** What strikes in the last part of a fill is where it lands; what is heard before is one of its hits. */
const lastPart = 0.8;

/** A fill leads up to where it ends, or to what strikes right there; a word of somebody is above that. */
function withFillsLanding(facts: LoopFacts, all: readonly Evidence[], { lengthSeconds }: Measured): LoopFacts {
  const { setRole, landing } = facts.chosen;
  if (setRole?.value !== 'fill' || all.some(({ attribute, source }) => attribute === 'landing' && isWord(source))) return facts;
  const end =
    facts.beats !== null && facts.tempoBpm !== null ? facts.firstBarSeconds + beatsToSeconds(facts.beats, facts.tempoBpm) : lengthSeconds;
  if (landing && landing.value >= lastPart * end) return facts;
  return {
    ...facts,
    chosen: {
      ...facts.chosen,
      landing: {
        attribute: 'landing',
        value: end,
        confidence: setRole.confidence,
        source: setRole.source,
        alternatives: landing ? [{ value: landing.value, probability: 1 - setRole.confidence }] : [],
        reasons: ['a fill lands where it ends'],
      },
    },
  };
}

/** By sound alone an instrument has to be likelier than not to be claimed: it may be none that has a name here. Below that its family is said. */
const claimedFrom = 0.5;

const isNamed = ({ confidence }: Chosen<'instrument'>, all: readonly Evidence[]): boolean =>
  confidence >= claimedFrom || all.some(({ attribute, source }) => attribute === 'instrument' && source !== 'sound');

/** The likeliest instrument of the likeliest family: three keyboards that share a half beat one bass with a third. */
function chooseInstrument(all: readonly Evidence[]): Chosen<'instrument'> | null {
  const chosen = fuse('instrument', all);
  if (!chosen || isWord(chosen.source)) return chosen;
  const { instruments, families } = instrumentChances(all),
    best = instruments.find(({ value }) => instrumentById(value)?.family === families[0]?.value);
  if (!best || best.value === chosen.value) return chosen;
  const others = instruments.filter(({ value }) => value !== best.value),
    [{ value: family, probability }] = families;
  return {
    ...chosen,
    // A rival may be likelier by itself: why it was not taken has to be said.
    reasons: [...chosen.reasons, `likeliest family: ${familyNames[family].label.toLowerCase()}, ${Math.round(100 * probability)} %`],
    value: best.value,
    confidence: best.probability,
    alternatives: others.filter(({ probability }) => probability >= 0.005).slice(0, 6),
  };
}

type RhythmFacts = Pick<LoopFacts, 'tempoBpm' | 'beats' | 'bars' | 'meter' | 'firstBarSeconds' | 'chosen'>;

function chooseRhythm(
  all: readonly Evidence[],
  { firstBarSeconds, lengthSeconds, readings = [] }: { firstBarSeconds: number; lengthSeconds: number; readings?: readonly Reading[] },
): RhythmFacts {
  const seconds = Math.max(0.05, lengthSeconds - firstBarSeconds),
    saidBeats = all.filter((each): each is Evidence<'beats'> => each.attribute === 'beats' && isWord(each.source)).at(-1),
    saidTempo = all.some((each) => each.attribute === 'tempo' && isWord(each.source));
  const tempo =
    saidBeats && !saidTempo
      ? fuse('tempo', [
          ...all,
          evidence(
            'tempo',
            'person',
            [{ value: tempoFromLength(saidBeats.candidates[0].value, seconds), probability: 1 }],
            'from the beats a person gave',
          ),
        ])
      : fuse('tempo', all);
  // What is heard of meter and beats depends on the tempo: of all readings those at this tempo speak.
  const fitting = tempo ? readings.filter((each) => sameValue('tempo', each.tempoBpm, tempo.value)) : [];
  const meter = fuse('meter', [
    ...all,
    ...heardShares(
      'meter',
      fitting.map(({ meter: value, probability }) => ({ value, probability })),
      meterReason(fitting),
    ),
  ]);
  if (!tempo) return { tempoBpm: null, beats: null, bars: null, meter: null, firstBarSeconds, chosen: { ...(meter && { meter }) } };
  const meterValue = meter?.value ?? '4/4',
    inMeter = fitting.filter((each) => each.meter === meterValue);
  const derived = inMeter.length ? null : beatsFromTempo(tempo.value, seconds, meterValue);
  const beats = fuse('beats', [
    ...all,
    ...heardShares(
      'beats',
      inMeter.map(({ beats: value, probability }) => ({ value, probability })),
      'where the music ends',
    ),
    ...(derived
      ? [
          evidence(
            'beats',
            'length',
            [{ value: derived.beats, probability: derived.confidence }],
            `${seconds.toFixed(2)} s at ${tempo.value.toFixed(1)}`,
          ),
        ]
      : []),
  ]);
  const heardBeats = beats?.value ?? derived?.beats ?? inMeter[0].beats,
    // How long a bar of an unknown meter is, only the sound says.
    odd = meterValue === 'unknown' ? (inMeter.find((each) => each.beats === heardBeats) ?? inMeter.at(0)) : undefined,
    perBar = odd ? odd.beats / odd.bars : beatsPerBar(meterValue);
  const start = fuse('start', [
    ...all,
    ...heardShares(
      'start',
      // At a tempo that only a person knows, the start is still where the others hear it.
      (inMeter.length ? inMeter.filter((each) => each.beats === heardBeats) : readings).map(({ startSeconds: value, probability }) => ({
        value,
        probability,
      })),
      'where the first bar is heard to begin',
    ),
  ]);
  // A first bar that a person moved leaves room for so many bars and no more, unless the person says that too.
  const room = Math.floor((secondsToBeats(lengthSeconds - (start?.value ?? 0), tempo.value) + 0.1) / perBar) * perBar,
    beatsValue = start && isWord(start.source) && !saidBeats ? Math.min(heardBeats, Math.max(perBar, room)) : heardBeats;
  // What follows from a doubtful tempo is no surer than the tempo.
  const honest =
    beats && !isWord(beats.source) && beats.source !== 'notes' ? { ...beats, confidence: beats.confidence * tempo.confidence } : beats;
  return {
    tempoBpm: tempo.value,
    beats: beatsValue,
    bars: beatsValue / perBar,
    meter: meterValue,
    firstBarSeconds: start?.value ?? firstBarSeconds,
    chosen: {
      tempo,
      ...(honest && { beats: { ...honest, value: beatsValue } }),
      ...(meter && { meter }),
      ...(start && { start: isWord(start.source) ? start : { ...start, confidence: start.confidence * tempo.confidence } }),
    },
  };
}

/** Why this meter, in words: of one that is not known, in how many beats it comes round. */
function meterReason(readings: readonly Reading[]): string {
  const sums = new Map<Reading['meter'], number>();
  for (const { meter, probability } of readings) sums.set(meter, (sums.get(meter) ?? 0) + probability);
  const [likeliest] = [...sums].sort((a, b) => b[1] - a[1]).map(([meter]) => meter),
    odd = readings.find(({ meter }) => meter === 'unknown');
  return likeliest === 'unknown' && odd ? `it comes round every ${odd.beats / odd.bars} beats` : 'where the accents fall';
}

/** Probabilities of readings gathered by value and scaled to sum 1, as what the sound says; nothing when no reading speaks. */
function heardShares<A extends 'meter' | 'beats' | 'start'>(
  attribute: A,
  readings: readonly { value: FactValues[A]; probability: number }[],
  reason: string,
): Evidence[] {
  const sums = new Map<FactValues[A], number>();
  for (const { value, probability } of readings) sums.set(value, (sums.get(value) ?? 0) + probability);
  const total = [...sums.values()].reduce((a, b) => a + b, 0);
  if (total <= 0) return [];
  return [
    evidence<A>(
      attribute,
      'sound',
      [...sums].map(([value, probability]) => ({ value, probability: probability / total })).sort((a, b) => b.probability - a.probability),
      reason,
    ) as Evidence,
  ];
}
