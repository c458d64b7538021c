import type { Family } from '../theory/instruments';
import { sameKey, type Key } from '../theory/key';
import { chooseReading, keyShift, type LoopOutline } from './fit-request';
import { emptyProject, newClip, newTrack, trackColourCount, type Project, type Track } from './tree';

/** A loop of a pack, with how sure its tempo and key are and which notes it has. */
export interface DemoCandidate {
  readonly source: LoopOutline;
  readonly title: string;
  readonly meter: string | null;
  readonly tempoConfidence: number;
  readonly keyConfidence: number;
  /** Strength of the twelve pitch classes; empty where there are none. */
  readonly chroma: readonly number[];
}

export type DemoRole = 'drums' | 'percussion' | 'more-percussion' | 'bass' | 'chords' | 'more-chords' | 'lead';

const chordFamilies: readonly Family[] = ['keys', 'guitar', 'synth-pad', 'strings', 'mallet'];

/** What each layer is taken from, whether it has to have a pitch, and how it stands in the sum, in LUFS of its own. */
const roles: Readonly<Record<DemoRole, { readonly families: readonly Family[]; readonly pitched: boolean; readonly level: number }>> = {
  drums: { families: ['drums'], pitched: false, level: -19 },
  percussion: { families: ['percussion', 'mallet'], pitched: false, level: -24 },
  'more-percussion': { families: ['percussion', 'drums', 'mallet'], pitched: false, level: -25 },
  bass: { families: ['bass'], pitched: true, level: -20 },
  chords: { families: chordFamilies, pitched: true, level: -22 },
  'more-chords': { families: chordFamilies, pitched: true, level: -24 },
  lead: { families: ['synth-lead', 'brass', 'wind', 'voice'], pitched: true, level: -22 },
};

export const demoBars = 16;
const phraseBars = 4,
  /** What is worth in a mix: so much of a layer's cost makes it stay out. */
  mostCost = 1.2,
  stretchPerOctave = 5,
  shiftPerSemitone = 0.12,
  doubtCost = 0.5,
  /** Of notes that no other layer has. */
  strangeNotes = 0.6,
  lowestGainDb = -24,
  highestGainDb = 12;

export interface DemoMix {
  readonly project: Project;
  readonly layers: readonly { readonly role: DemoRole; readonly loopId: number; readonly title: string; readonly startBar: number }[];
}

/**
 * Sixteen bars from a pack's own loops that agree: tempo, key and meter that serve most layers at least cost, then for each layer the loop that
 * needs the least done to it and whose notes go with the chords. Layers come in every four bars; all are there for the last four.
 * @returns null where a pack has no loop that could be played in time
 */
export function arrangeDemo(name: string, candidates: readonly DemoCandidate[]): DemoMix | null {
  const loops = candidates.filter(({ source }) => source.kind === 'loop' && source.tempoBpm !== null && source.beats !== null);
  let best: { readonly cost: number; readonly frame: Frame; readonly layers: ReadonlyMap<DemoRole, DemoCandidate> } | null = null;
  for (const frame of framesOf(loops)) {
    const layers = layersIn(frame, loops),
      // Each layer is worth as much as the worst that is taken in.
      cost = [...layers.values()].reduce((sum, each) => sum + costIn(frame, each) - mostCost, 0);
    if (layers.size > 0 && (best === null || cost < best.cost - 1e-9)) best = { cost, frame, layers };
  }
  return best && toMix(name, best.frame, best.layers);
}

interface Frame {
  readonly tempoBpm: number;
  readonly key: Key | null;
  readonly meter: string;
  readonly barBeats: number;
}

/** Every tempo and key that some loop of the pack has by itself; the commonest dozen of each. */
function framesOf(loops: readonly DemoCandidate[]): Frame[] {
  const tempos = commonest(
      loops.map(({ source }) => Math.round((source.tempoBpm as number) * 10) / 10),
      (a, b) => a === b,
    ),
    keys = commonest(
      loops.flatMap(({ source }) => (source.pitched && source.key && source.family !== 'drums' ? [source.key] : [])),
      sameKey,
    ),
    meters = commonest(
      loops.map(({ meter, source }) => ({ meter: meter ?? '4/4', barBeats: source.barBeats })),
      (a, b) => a.meter === b.meter,
    );
  return meters.flatMap((each) =>
    tempos.flatMap((tempoBpm) => (keys.length > 0 ? keys : [null]).map((key) => ({ tempoBpm, key, ...each }))),
  );
}

const mostTried = 12;

function commonest<V>(values: readonly V[], same: (a: V, b: V) => boolean): V[] {
  const counts: { value: V; count: number }[] = [];
  for (const value of values) {
    const there = counts.find((each) => same(each.value, value));
    if (there) there.count++;
    else counts.push({ value, count: 1 });
  }
  return counts
    .sort((a, b) => b.count - a.count)
    .slice(0, mostTried)
    .map(({ value }) => value);
}

/** What has to be done to a loop to belong to a frame, and how unsure it is that it then does. */
function costIn({ tempoBpm, key }: Frame, { source, tempoConfidence, keyConfidence }: DemoCandidate): number {
  const own = source.tempoBpm as number,
    stretch = Math.abs(Math.log2((own * chooseReading(own, tempoBpm)) / tempoBpm)) * stretchPerOctave,
    isTuned = source.pitched === true && source.family !== 'drums',
    shift = isTuned ? (source.key ? Math.abs(keyShift(source, key)) * shiftPerSemitone + (1 - keyConfidence) * doubtCost : doubtCost) : 0;
  return stretch + shift + (1 - tempoConfidence) * doubtCost;
}

function layersIn(frame: Frame, loops: readonly DemoCandidate[]): Map<DemoRole, DemoCandidate> {
  const found = new Map<DemoRole, DemoCandidate>(),
    fitting = loops.filter(({ source, meter }) => (meter ?? '4/4') === frame.meter && lastsBars(source, frame)),
    take = (role: DemoRole, beside: (candidate: DemoCandidate) => number) => {
      const [best] = fitting
        .filter(
          (each) =>
            each.source.family !== null &&
            roles[role].families.includes(each.source.family) &&
            (each.source.family === 'drums' || (each.source.pitched === true) === roles[role].pitched) &&
            // Two of one instrument are one twice.
            ![...found.values()].some(({ source }) => source === each.source || source.instrument === each.source.instrument),
        )
        .map((candidate) => ({ candidate, cost: costIn(frame, candidate) + beside(candidate) }))
        .sort((a, b) => a.cost - b.cost || a.candidate.source.loopId - b.candidate.source.loopId);
      if (best && best.cost < mostCost) found.set(role, best.candidate);
    };
  take('chords', () => 0);
  const chords = found.get('chords'),
    strange = (candidate: DemoCandidate) => (chords ? strangeNotes * (1 - sharedNotes(frame, chords, candidate)) : 0);
  take('bass', strange);
  take('lead', strange);
  take('drums', () => 0);
  take('percussion', () => 0);
  if (found.size < fewLayers) take('more-percussion', () => 0);
  if (found.size < fewLayers) take('more-chords', strange);
  return found;
}

/** With fewer, a pack of one kind of thing shows more of that. */
const fewLayers = 4;

/** Loops of a whole number of bars, eight at most: more is a part of a piece. */
const lastsBars = ({ beats }: LoopOutline, { barBeats }: Frame): boolean =>
  beats !== null && beats % barBeats === 0 && beats / barBeats <= 8 && beats >= barBeats;

/** Cosine of two loops' pitch classes as they sound in a frame; 1 where nothing is known. */
function sharedNotes({ key }: Frame, a: DemoCandidate, b: DemoCandidate): number {
  if (a.chroma.length !== 12 || b.chroma.length !== 12) return 1;
  const at = (candidate: DemoCandidate, pitch: number): number => candidate.chroma[(pitch - keyShift(candidate.source, key) + 144) % 12];
  let product = 0,
    powerA = 0,
    powerB = 0;
  for (let pitch = 0; pitch < 12; pitch++) {
    product += at(a, pitch) * at(b, pitch);
    powerA += at(a, pitch) ** 2;
    powerB += at(b, pitch) ** 2;
  }
  return powerA > 0 && powerB > 0 ? product / Math.sqrt(powerA * powerB) : 1;
}

/** In which order layers come in (common practice: what carries the harmony, then the beat, then the rest). */
const entranceOrder: readonly DemoRole[] = ['chords', 'drums', 'bass', 'percussion', 'more-percussion', 'more-chords', 'lead'];

function toMix(name: string, { tempoBpm, key, meter, barBeats }: Frame, layers: ReadonlyMap<DemoRole, DemoCandidate>): DemoMix {
  const present = entranceOrder.filter((role) => layers.has(role)),
    // With few layers the last comes in early: a pack is judged by all of them together.
    entrances = present.map((role, k) => ({ role, startBar: k === 0 ? 0 : Math.min(k, demoBars / phraseBars - 1) * phraseBars })),
    track = ({ role, startBar }: (typeof entrances)[number], index: number): Track => {
      const { source, title } = layers.get(role) as DemoCandidate,
        gainDb = source.loudnessLufs === null ? 0 : roles[role].level - source.loudnessLufs,
        clip = newClip({
          id: `demo-clip-${role}`,
          loopId: source.loopId,
          startBeat: startBar * barBeats,
          lengthBeats: (demoBars - startBar) * barBeats,
          gainDb: Math.max(lowestGainDb, Math.min(highestGainDb, gainDb)),
        });
      return newTrack({ id: `demo-${role}`, name: title.slice(0, 120), colour: index % trackColourCount, clips: [clip] });
    };
  return {
    project: { ...emptyProject(name, tempoBpm, key, meter), tracks: entrances.map(track) },
    layers: entrances.map(({ role, startBar }) => {
      const { source, title } = layers.get(role) as DemoCandidate;
      return { role, loopId: source.loopId, title, startBar };
    }),
  };
}

export const demoRoleLabels: Readonly<Record<DemoRole, string>> = {
  drums: 'Drums',
  percussion: 'Percussion',
  'more-percussion': 'Percussion',
  bass: 'Bass',
  chords: 'Chords',
  'more-chords': 'Chords',
  lead: 'Lead',
};
