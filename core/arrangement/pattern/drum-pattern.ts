import { createRandom } from '../../synth/random';
import { inPlayingOrder, type PatternNote } from './pattern';

/** What of the kit plays along. */
export const kitParts = ['kick', 'snare', 'hats', 'open-hats', 'toms', 'percussion', 'cymbals'] as const;
export type KitPart = (typeof kitParts)[number];

export const kitPartLabels: Readonly<Record<KitPart, string>> = {
  kick: 'Kick',
  snare: 'Snare',
  hats: 'Hats',
  'open-hats': 'Open hats',
  toms: 'Toms',
  percussion: 'Percussion',
  cymbals: 'Cymbals',
};

/** Percussion keys by General MIDI (MIDI Association RP-003). */
const keys = { kick: 36, snare: 38, ghost: 37, hats: 42, 'open-hats': 46, ride: 51, crash: 49, tom: [48, 45, 41], percussion: 63 } as const;

/** How a beat is put together: chances by sixteenth of a bar of four quarters, in our own words. */
export interface DrumStyle {
  readonly id: string;
  readonly label: string;
  /** Sixteenths that are always struck, then those that come as it gets busier. */
  readonly kick: readonly [always: readonly number[], more: readonly number[]];
  readonly snare: readonly [always: readonly number[], more: readonly number[]];
  /** Sixteenths between two strokes of the hats where it is calm, and where it is busy. */
  readonly hatEvery: readonly [calm: number, busy: number];
  readonly openOn: readonly number[];
  readonly percussionOn: readonly number[];
}

/** From memory of how drummers count; each is a start, to be changed as notes. */
export const drumStyles: readonly DrumStyle[] = [
  {
    id: 'four',
    label: 'Four on the floor',
    kick: [
      [0, 4, 8, 12],
      [14, 7],
    ],
    snare: [[4, 12], [15]],
    hatEvery: [4, 2],
    openOn: [2, 6, 10, 14],
    percussionOn: [3, 6, 11, 14],
  },
  {
    id: 'backbeat',
    label: 'Straight backbeat',
    kick: [
      [0, 8],
      [10, 6, 14, 3],
    ],
    snare: [
      [4, 12],
      [7, 15, 9],
    ],
    hatEvery: [2, 1],
    openOn: [14, 6],
    percussionOn: [2, 6, 10, 14],
  },
  {
    id: 'half',
    label: 'Half as slow, heavy',
    kick: [[0], [10, 6, 3, 14]],
    snare: [[8], [15, 5]],
    hatEvery: [2, 1],
    openOn: [12, 4],
    percussionOn: [3, 11],
  },
  {
    id: 'broken',
    label: 'Broken, leaning forward',
    kick: [
      [0, 10],
      [2, 7, 13],
    ],
    snare: [
      [4, 12],
      [7, 9, 14],
    ],
    hatEvery: [2, 2],
    openOn: [6, 14],
    percussionOn: [1, 5, 9, 13],
  },
  {
    id: 'shuffle',
    label: 'Lazy shuffle',
    kick: [
      [0, 8],
      [6, 11, 15],
    ],
    snare: [
      [4, 12],
      [14, 6],
    ],
    hatEvery: [4, 2],
    openOn: [14],
    percussionOn: [2, 10],
  },
  {
    id: 'latin',
    label: 'Rolling, with hand drums',
    kick: [
      [0, 6, 8, 14],
      [3, 11],
    ],
    snare: [[12], [3, 6, 10]],
    hatEvery: [2, 1],
    openOn: [10],
    percussionOn: [2, 3, 6, 7, 10, 11, 14, 15],
  },
];

export interface DrumWishes {
  readonly styleId: string;
  readonly bars: number;
  readonly barBeats: number;
  /** 0–1. */
  readonly busy: number;
  readonly hard: number;
  /** 0 straight … 1 the second of two sixteenths lies at three quarters. */
  readonly swing: number;
  /** A fill in the last bar of every so many; 0: none. */
  readonly fillEveryBars: number;
  readonly parts: ReadonlySet<KitPart>;
  readonly seed: number;
}

const perBeat = 4;

/** Drums by wishes: the same wishes and seed give the same notes. @param newId names for the notes */
export function drumPattern(wishes: DrumWishes, newId: () => string): PatternNote[] {
  const style = drumStyles.find(({ id }) => id === wishes.styleId) ?? drumStyles[0],
    random = createRandom(wishes.seed),
    barSteps = Math.round(wishes.barBeats * perBeat),
    notes: PatternNote[] = [],
    // A part draws its chances whether it plays or not, so that leaving one out changes no other.
    strike = (part: KitPart, step: number, pitch: number, strength: number, isWanted = true) => {
      const chance = random();
      if (!isWanted || !wishes.parts.has(part)) return;
      const late = step % 2 === 1 ? (wishes.swing * 0.5) / perBeat : 0,
        velocity = Math.max(1, Math.min(127, Math.round((34 + 76 * wishes.hard) * strength + (chance - 0.5) * 14)));
      notes.push({ id: newId(), startBeat: step / perBeat + late, lengthBeats: 1 / perBeat, pitch, velocity });
    };
  for (let bar = 0; bar < wishes.bars; bar++) {
    const from = bar * barSteps,
      isFill = wishes.fillEveryBars > 0 && (bar + 1) % wishes.fillEveryBars === 0,
      // The fill takes the second half of its bar.
      until = isFill ? Math.floor(barSteps / 2) : barSteps,
      // Patterns are counted in four quarters; other meters take of it what they have room for, and go on from its start.
      place = (step: number) => step % 16;
    const hatEvery = wishes.busy > 0.55 ? style.hatEvery[1] : style.hatEvery[0];
    for (let step = 0; step < until; step++) {
      const at = place(step),
        isBeat = step % perBeat === 0,
        more = (list: readonly number[]) => list.includes(at) && random() < (wishes.busy * (list.length - list.indexOf(at))) / list.length,
        isKick = style.kick[0].includes(at) || more(style.kick[1]),
        isSnare = style.snare[0].includes(at),
        isGhost = !isSnare && more(style.snare[1]),
        isOpen = wishes.parts.has('open-hats') && style.openOn.includes(at) && (at % 4 === 2 || random() < wishes.busy);
      strike('kick', from + step, keys.kick, isBeat ? 1 : 0.85, isKick);
      strike('snare', from + step, isGhost && wishes.hard < 0.5 ? keys.ghost : keys.snare, isSnare ? 1 : 0.42, isSnare || isGhost);
      strike('hats', from + step, keys.hats, isBeat ? 0.8 : 0.6, step % hatEvery === 0 && !isOpen);
      strike('open-hats', from + step, keys['open-hats'], 0.7, isOpen && style.openOn.includes(at));
      strike('percussion', from + step, keys.percussion, 0.55, style.percussionOn.includes(at) && random() < 0.35 + 0.65 * wishes.busy);
    }
    if (bar === 0 || (wishes.fillEveryBars > 0 && bar % wishes.fillEveryBars === 0)) strike('cymbals', from, keys.crash, 0.9);
    for (let step = until; step < barSteps; step++) {
      const share = (step - until) / Math.max(1, barSteps - until),
        isStruck = step % 2 === 0 || random() < 0.4 + 0.6 * wishes.busy,
        usesToms = wishes.parts.has('toms') && share >= 0.25,
        pitch = usesToms ? keys.tom[Math.min(2, Math.floor(share * 3.2))] : keys.snare;
      strike(usesToms ? 'toms' : 'snare', from + step, pitch, 0.6 + 0.4 * share, isStruck);
      strike('kick', from + step, keys.kick, 0.8, step === until);
    }
  }
  return inPlayingOrder(notes);
}
