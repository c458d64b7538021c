import type { Note } from '../../core/formats/smf/parse';
import type { Chance } from './chance';

/** A pattern of one bar in sixteenths: 0–1 strengths. */
export type Steps = readonly number[];

const from = (text: string): number[] => [...text].map((mark) => ({ X: 1, x: 0.75, o: 0.45, '.': 0 })[mark] ?? 0);

/** `hits` spread as evenly as they go over `steps` (Bjorklund; Toussaint 2005), turned by `turn`. */
export function euclid(hits: number, steps: number, turn: number): number[] {
  return Array.from({ length: steps }, (_, k) => ((((k + turn) % steps) * hits) % steps < hits ? 0.75 : 0));
}

/** A random syncopated line in which strong places are likelier. */
export function scattered(chance: Chance, steps: number, density: number, beatSteps = 4): number[] {
  const line = Array.from({ length: steps }, (_, k) => {
    const weight = k % beatSteps === 0 ? 1.5 : k % 2 === 0 ? 1 : 0.55;
    return chance.yes(Math.min(0.95, density * weight)) ? chance.pick([1, 0.75, 0.75, 0.45]) : 0;
  });
  if (!line.some(Boolean)) line[chance.pick([0, 0, 4])] = 1;
  return line;
}

type Lines = ReadonlyMap<number, Steps>;

const hats = (chance: Chance): number[] =>
  chance.pick([
    from('x.x.x.x.x.x.x.x.'),
    from('..x...x...x...x.'),
    from('XxoxXxoxXxoxXxox'),
    from('x...x...x...x...'),
    from('xoxoxoxoxoxoxoxo'),
    from('x.oxx.oxx.oxx.ox'),
    scattered(chance, 16, 0.6),
  ]);
const hatKey = (chance: Chance): number => chance.pick([42, 42, 42, 44, 51, 46]);

type DrumStyle = (chance: Chance) => Lines;

/** Groove families in common practice; each draw differs. Sixteen steps a bar, twelve in 3/4 and 6/8. */
export const grooves: Readonly<Record<string, { weight: number; tempos: readonly [number, number]; make: DrumStyle; swing?: boolean }>> = {
  four: {
    weight: 5,
    tempos: [108, 142],
    make: (chance) =>
      new Map([
        [36, from('X...X...X...X...').map((v, k) => (v || (k > 8 && chance.yes(0.06)) ? v || 0.6 : 0))],
        [chance.pick([39, 38, 40]), from(chance.pick(['....X.......X...', '....x..o....x...', '....X.......X.oo']))],
        [hatKey(chance), hats(chance)],
        ...(chance.yes(0.5) ? [[46, from('..x...x...x...x.')] as const] : []),
      ]),
  },
  broken: {
    weight: 5,
    tempos: [80, 176],
    make: (chance) =>
      new Map([
        [36, scattered(chance, 16, 0.2).map((v, k) => (k === 0 ? 1 : k % 4 === 0 && k !== 8 ? 0 : v))],
        [chance.pick([38, 40]), from('....X.......X...').map((v) => v || (chance.yes(0.14) ? 0.35 : 0))],
        [hatKey(chance), hats(chance)],
      ]),
  },
  rock: {
    weight: 4,
    tempos: [72, 172],
    make: (chance) =>
      new Map([
        [36, from(chance.pick(['X.......X.......', 'X.....x.X.......', 'X.......X.x.....', 'X..x....X.x.....']))],
        [38, from('....X.......X...')],
        [chance.pick([42, 51, 46]), from(chance.pick(['x.x.x.x.x.x.x.x.', 'x...x...x...x...', 'X.o.X.o.X.o.X.o.']))],
      ]),
  },
  half: {
    weight: 4,
    tempos: [126, 166],
    make: (chance) =>
      new Map([
        [36, scattered(chance, 16, 0.14).map((v, k) => (k === 0 ? 1 : k === 8 ? 0 : v))],
        [chance.pick([38, 39]), from('........X.......')],
        [42, chance.pick([from('x.x.x.x.x.x.x.x.'), from('x.xox.x.xxx.x.xo'), scattered(chance, 16, 0.6)])],
      ]),
  },
  fast: {
    weight: 3,
    tempos: [158, 182],
    make: (chance) =>
      new Map([
        [36, from(chance.pick(['X.........X.....', 'X.x.......X.....', 'X.........X..x..']))],
        [38, from('....X.......X...').map((v) => v || (chance.yes(0.1) ? 0.4 : 0))],
        [hatKey(chance), hats(chance)],
      ]),
  },
  shuffled: {
    weight: 3,
    tempos: [70, 140],
    swing: true,
    make: (chance) =>
      new Map([
        [36, from(chance.pick(['X.......X.......', 'X.....x.X.......', 'X.x.....X.....x.']))],
        [38, from('....X.......X...').map((v) => v || (chance.yes(0.08) ? 0.4 : 0))],
        [chance.pick([42, 51]), from(chance.pick(['x.x.x.x.x.x.x.x.', 'x...x.x.x...x.x.']))],
      ]),
  },
  ride: {
    weight: 2,
    tempos: [90, 190],
    swing: true,
    make: (chance) =>
      new Map([
        [51, from(chance.pick(['X...x.x.X...x.x.', 'x...X.o.x...X.o.', 'x...x...x...x...']))],
        [44, from('....x.......x...')],
        ...(chance.yes(0.4) ? [[38, scattered(chance, 16, 0.1)] as const] : []),
      ]),
  },
  island: {
    weight: 2,
    tempos: [84, 108],
    make: (chance) =>
      new Map([
        [36, from('X...X...X...X...')],
        [chance.pick([38, 37, 39]), from(chance.pick(['...X..X....X..X.', '...x..X....x..X.', '......X.......X.']))],
        ...(chance.yes(0.6) ? [[42, hats(chance)] as const] : []),
      ]),
  },
  tops: {
    weight: 3,
    tempos: [70, 176],
    make: (chance) =>
      new Map([
        [42, hats(chance)],
        [chance.pick([39, 37, 51, 46]), scattered(chance, 16, 0.2)],
        [chance.pick([70, 82]), hats(chance)],
      ]),
  },
  toms: {
    weight: 2,
    tempos: [70, 160],
    make: (chance) =>
      new Map([
        [41, scattered(chance, 16, 0.25)],
        [45, scattered(chance, 16, 0.15)],
        [48, scattered(chance, 16, 0.12)],
      ]),
  },
};

/** Drum loops of one voice. */
export const soloDrums: readonly (readonly [instrument: string, keys: readonly number[], make: (chance: Chance) => Steps])[] = [
  [
    'kick',
    [36, 35],
    (chance) =>
      chance.pick([
        from('X...X...X...X...'),
        from('X.......X.......'),
        from('X..............' + '.'),
        from('X.....X...X.....'),
        scattered(chance, 16, 0.2),
      ]),
  ],
  ['snare', [38, 40, 37], (chance) => chance.pick([from('....X.......X...'), from('....X..o.o..X..o'), scattered(chance, 16, 0.25)])],
  ['clap', [39], (chance) => chance.pick([from('....X.......X...'), from('....X.......X.xx'), from('....X..x....X...')])],
  ['hats', [42, 44, 46, 51, 59, 49], hats],
  ['hats', [42], (chance) => chance.pick([from('xxxxxxxxxxxxxxxx'), from('x..xx..xx..xx.xx'), scattered(chance, 16, 0.5)])],
];

/** Percussion voices by instrument, and how they move. */
export const percussion: readonly (readonly [instrument: string, keys: readonly (readonly number[])[], make: (chance: Chance) => Steps])[] =
  [
    [
      'shaker',
      [[70], [82], [69]],
      (chance) => chance.pick([from('XoxoXoxoXoxoXoxo'), from('X.x.X.x.X.x.X.x.'), from('xoXoxoXoxoXoxoXo'), from('x.xXx.xXx.xXx.xX')]),
    ],
    ['tambourine', [[54]], (chance) => chance.pick([from('....X.......X...'), from('x.x.X.x.x.x.X.x.'), hats(chance)])],
    [
      'conga',
      [
        [62, 63, 64],
        [60, 61],
        [65, 66],
      ],
      (chance) => scattered(chance, 16, 0.35),
    ],
    [
      'woodblock',
      [[75], [76, 77], [56], [67, 68], [80, 81], [73, 74]],
      (chance) =>
        chance.pick([euclid(chance.pick([3, 5, 7]), 16, chance.whole(0, 15)), from('x..x..x...x.x...'), scattered(chance, 16, 0.3)]),
    ],
  ];

export interface Playing {
  readonly bars: number;
  readonly barQuarters: number;
  /** Share of a pair of swung steps that the first one takes; 0.5 is straight. */
  readonly swing: number;
  readonly swingQuarters: number;
  readonly loose: number;
}

/** Moves a straight place to its swung one. */
export function swung(quarter: number, { swing, swingQuarters }: Pick<Playing, 'swing' | 'swingQuarters'>): number {
  if (swing === 0.5) return quarter;
  const pair = swingQuarters * 2,
    whole = Math.floor(quarter / pair + 1e-9),
    part = (quarter - whole * pair) / pair;
  return (whole + (part <= 0.5 ? (part * swing) / 0.5 : swing + (part - 0.5) * 2 * (1 - swing))) * pair;
}

/** Lines to notes over all bars, with little changes from bar to bar. */
export function playSteps(lines: Lines, playing: Playing, chance: Chance, channel = 9): Note[] {
  const steps = playing.barQuarters * 4,
    notes: Note[] = [];
  for (const [pitch, line] of lines)
    for (let bar = 0; bar < playing.bars; bar++)
      for (let step = 0; step < steps; step++) {
        let strength = line[step % line.length];
        if (strength > 0 && strength < 0.9 && chance.yes(0.02)) strength = 0;
        if (strength === 0 && chance.yes(0.006)) strength = 0.4;
        if (strength === 0) continue;
        const place = bar * playing.barQuarters + step / 4;
        notes.push({
          startBeat: Math.max(0, swung(place, playing) + (place === 0 ? 0 : chance.normal(playing.loose))),
          lengthBeats: 0.2,
          pitch,
          velocity: Math.max(10, Math.min(127, Math.round(118 * strength + chance.normal(6)))),
          channel,
        });
      }
  return notes;
}
