import { instrumentById, type Family } from '../../theory/instruments';
import type { Key } from '../../theory/key';
import { beatsPerBar, tempoFromLength } from '../../units/time';
import { musicSeconds } from '../analyse-audio';
import { evidence, type Attribute, type Evidence, type LoopKind } from '../facts';
import { beatsFromTempo } from '../tempo/length-candidates';
import { fuse, type Chosen } from './fuse';

/** The chosen values of a loop, as search, fitting and the ear use them. */
export interface LoopFacts {
  readonly kind: LoopKind;
  readonly tempoBpm: number | null;
  readonly beats: number | null;
  readonly bars: number | null;
  readonly meter: string | null;
  readonly key: Key | null;
  readonly pitched: boolean | null;
  readonly instrument: string | null;
  readonly family: Family | null;
  readonly chosen: Readonly<Partial<Record<Attribute, Chosen>>>;
}

/**
 * All evidence of a loop to one set of facts. Tempo, beats and meter are chosen together: what has no repeat has no tempo;
 * the beats follow from tempo and length unless somebody says otherwise; a person's beats in turn give the tempo.
 */
export function chooseFacts(
  all: readonly Evidence[],
  lengths: { readonly leadSeconds: number; readonly lengthSeconds: number },
): LoopFacts {
  const kind = fuse('kind', all);
  const instrument = fuse('instrument', all);
  const found = instrumentById(instrument?.value ?? null);
  const key = fuse(
    'key',
    instrument && found && (found.family === 'drums' || found.family === 'percussion')
      ? [
          ...all,
          evidence(
            'key',
            instrument.source === 'person' ? 'file-name' : instrument.source,
            [{ value: 'unpitched', probability: 0.96 * instrument.confidence }],
            `${found.label.toLowerCase()} has no key`,
          ),
        ]
      : all,
  );
  const common = {
    kind: kind?.value ?? 'phrase',
    key: key && key.value !== 'unpitched' ? key.value : null,
    pitched: key ? key.value !== 'unpitched' : null,
    instrument: found?.id ?? null,
    family: found?.family ?? null,
  } as const;
  const always = { ...(kind && { kind }), ...(key && { key }), ...(instrument && { instrument }) };
  if (common.kind === 'one-shot' || common.kind === 'phrase')
    return { ...common, tempoBpm: null, beats: null, bars: null, meter: null, chosen: always };
  const rhythm = chooseRhythm(all, musicSeconds(lengths.leadSeconds, lengths.lengthSeconds));
  return { ...common, ...rhythm, chosen: { ...always, ...rhythm.chosen } };
}

function chooseRhythm(all: readonly Evidence[], seconds: number): Pick<LoopFacts, 'tempoBpm' | 'beats' | 'bars' | 'meter' | 'chosen'> {
  const meter = fuse('meter', all);
  const meterValue = meter?.value ?? '4/4';
  const saidBeats = all.filter((each): each is Evidence<'beats'> => each.attribute === 'beats' && each.source === 'person').at(-1);
  const saidTempo = all.some((each) => each.attribute === 'tempo' && each.source === 'person');
  const tempo =
    saidBeats && !saidTempo && seconds > 0
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
  if (!tempo) return { tempoBpm: null, beats: null, bars: null, meter: null, chosen: { ...(meter && { meter }) } };
  const derived = beatsFromTempo(tempo.value, Math.max(0.05, seconds), meterValue);
  const stated = all.filter((each) => each.attribute === 'beats');
  const beats = fuse('beats', [
    ...stated,
    evidence(
      'beats',
      'length',
      [{ value: derived.beats, probability: derived.confidence }],
      `${seconds.toFixed(2)} s at ${tempo.value.toFixed(1)}`,
    ),
  ]);
  const beatsValue = beats?.value ?? derived.beats;
  // What follows from a doubtful tempo is no surer than the tempo.
  const honest =
    beats && beats.source !== 'person'
      ? { ...beats, confidence: Math.min(beats.confidence, Math.max(tempo.confidence, beats.source === 'notes' ? beats.confidence : 0)) }
      : beats;
  return {
    tempoBpm: tempo.value,
    beats: beatsValue,
    bars: beatsValue / beatsPerBar(meterValue),
    meter: meterValue,
    chosen: { tempo, ...(honest && { beats: honest }), ...(meter && { meter }) },
  };
}
