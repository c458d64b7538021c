import { instrumentById } from '../../core/theory/instruments';
import type { Note } from '../../core/formats/smf/parse';
import { Chance } from './chance';
import { blipKeys } from './hits';
import { chordAt, judgeKey, makeHarmony, scales, voicing, type Harmony } from './harmony';
import { quartersPerBar, type Part, type Piece } from './piece';
import { euclid, grooves, percussion, playSteps, scattered, soloDrums, swung, type Playing, type Steps } from './rhythm';

interface Frame {
  readonly tempoBpm: number;
  readonly meter: Piece['meter'];
  readonly bars: number;
  readonly playing: Playing;
}

/** Tempo, meter and length as vendors make them: mostly whole tempos, mostly 4/4, mostly 1 to 8 bars. */
function frame(
  chance: Chance,
  tempos: readonly [number, number],
  options: { meter?: Piece['meter']; slow?: boolean; swing?: boolean } = {},
): Frame {
  const meter =
    options.meter ??
    chance.weighted([
      ['4/4', 84],
      ['3/4', 10],
      ['6/8', 6],
    ] as const);
  const rough = chance.yes(0.3) ? Math.min(tempos[1], Math.max(tempos[0], 118 + chance.normal(26))) : chance.between(...tempos);
  const tempoBpm = chance.weighted([
    [Math.round(rough), 80],
    [Math.round(rough * 2) / 2, 8],
    [Math.round(rough * 100) / 100, 12],
  ] as const);
  let bars = chance.weighted(
    options.slow
      ? ([
          [1, 5],
          [2, 20],
          [4, 48],
          [8, 18],
          [3, 4],
          [6, 4],
        ] as const)
      : ([
          [1, 14],
          [2, 30],
          [4, 40],
          [8, 10],
          [3, 3],
          [6, 3],
        ] as const),
  ) as number;
  const barQuarters = quartersPerBar(meter),
    quarterSeconds = 60 / (meter === '6/8' ? tempoBpm * 1.5 : tempoBpm);
  while (bars > 1 && bars * barQuarters * quarterSeconds > 24) bars = Math.max(1, Math.floor(bars / 2));
  if (meter !== '4/4' && bars === 1 && chance.yes(0.7)) bars = 2;
  // The eighths of a six are even.
  const swing = meter === '6/8' ? 0.5 : options.swing ? chance.between(0.6, 0.68) : chance.yes(0.18) ? chance.between(0.54, 0.667) : 0.5;
  const looseSeconds = chance.pick([0, 0, 0.002, 0.004, 0.006, 0.01]);
  return {
    tempoBpm,
    meter,
    bars,
    playing: {
      bars,
      barQuarters,
      swing,
      swingQuarters: options.swing ? 0.5 : chance.pick([0.5, 0.25]),
      loose: looseSeconds / quarterSeconds,
    },
  };
}

const toMeter = (line: Steps, meter: Piece['meter'], chance: Chance): Steps => {
  if (meter === '4/4') return line;
  // Twelve sixteenths: three beats of four, or two of six.
  if (meter === '3/4') return [...line.slice(0, 4), ...(chance.yes(0.5) ? line.slice(4, 8) : line.slice(8, 12)), ...line.slice(4, 8)];
  const eighths = Array.from({ length: 6 }, (_, k) => line[[0, 2, 4, 8, 10, 12][k]] || 0);
  return eighths.flatMap((value) => [value, 0]);
};

function loopOf(
  style: string,
  instrument: string,
  shape: Frame,
  parts: readonly Part[],
  harmony: Harmony | null,
  tempoHeard = true,
): Piece {
  const judged = harmony ? judgeKey(harmony, parts) : null;
  return {
    style,
    instrument,
    isLoop: true,
    parts,
    tempoBpm: shape.tempoBpm,
    meter: shape.meter,
    bars: shape.bars,
    key: judged?.key ?? null,
    keyStatus: judged?.status ?? 'atonal',
    chords: harmony?.chords ?? [],
    tempoHeard,
  };
}

function drumNotes(chance: Chance, style: keyof typeof grooves, shape: Frame): Note[] {
  const lines = new Map([...grooves[style].make(chance)].map(([key, line]) => [key, toMeter(line, shape.meter, chance)]));
  // In odd meters the backbeat stands on 3, or on 2 and 3, of a waltz and in the middle of a six.
  if (shape.meter === '6/8')
    for (const key of [38, 39, 40]) if (lines.has(key)) lines.set(key, [0, 0, 0, 0, 0, 0, 1, 0, 0, 0, 0, chance.yes(0.3) ? 0.4 : 0]);
  if (lines.size > 2 && chance.yes(0.2)) lines.delete(chance.pick([...lines.keys()].filter((key) => key !== 36)));
  const notes = playSteps(lines, shape.playing, chance);
  if (chance.yes(0.2) && shape.bars > 1) {
    const end = shape.bars * shape.playing.barQuarters;
    for (let k = 0; k < 4; k++)
      if (chance.yes(0.8))
        notes.push({
          startBeat: end - 1 + k / 4,
          lengthBeats: 0.2,
          pitch: chance.pick([38, 38, 45, 41]),
          velocity: chance.whole(60, 115),
          channel: 9,
        });
  }
  if (chance.yes(0.15)) notes.push({ startBeat: 0, lengthBeats: 1, pitch: 49, velocity: 100, channel: 9 });
  return notes;
}

const drums = (chance: Chance): Piece => {
  const style = chance.weighted(Object.entries(grooves).map(([name, { weight }]) => [name, weight] as const)) as keyof typeof grooves;
  const shape = frame(chance, grooves[style].tempos, {
    swing: grooves[style].swing,
    meter: chance.weighted([
      ['4/4', 84],
      ['3/4', 9],
      ['6/8', 7],
    ] as const),
  });
  const instrument = style === 'tops' || style === 'toms' ? style : 'kit';
  return loopOf(`drums:${style}`, instrument, shape, [{ instrument, notes: drumNotes(chance, style, shape), gain: 1 }], null);
};

const soloDrum = (chance: Chance): Piece => {
  const [instrument, keys, make] = chance.pick(soloDrums),
    shape = frame(chance, [70, 170]);
  const bars = shape.bars === 1 && instrument !== 'hats' && chance.yes(0.6) ? 2 : shape.bars;
  const playing = { ...shape.playing, bars };
  const notes = playSteps(new Map([[chance.pick(keys), toMeter(make(chance), shape.meter, chance)]]), playing, chance);
  return loopOf(`solo:${instrument}`, instrument, { ...shape, bars, playing }, [{ instrument, notes, gain: 1 }], null);
};

const perc = (chance: Chance): Piece => {
  const shape = frame(chance, [70, 170]),
    several = chance.yes(0.35);
  const rows = several
    ? [chance.pick(percussion), chance.pick(percussion), chance.pick(percussion)].slice(0, chance.whole(2, 3))
    : [chance.pick(percussion)];
  const lines = new Map<number, Steps>();
  for (const [, groups, make] of rows) {
    const group = chance.pick(groups);
    const main = toMeter(make(chance), shape.meter, chance);
    lines.set(group[0], main);
    for (const key of group.slice(1))
      lines.set(
        key,
        main.map((v) => (v === 0 && chance.yes(0.25) ? 0.6 : 0)),
      );
  }
  const instruments = new Set(rows.map(([instrument]) => instrument));
  const instrument = instruments.size === 1 ? rows[0][0] : 'percussion';
  return loopOf(
    several ? 'perc:several' : `perc:${instrument}`,
    instrument,
    shape,
    [{ instrument, notes: playSteps(lines, shape.playing, chance), gain: 1 }],
    null,
  );
};

const drumFill = (chance: Chance): Piece => {
  const shape = frame(chance, [75, 170], { meter: '4/4' }),
    bars = chance.pick([1, 1, 2]),
    notes: Note[] = [{ startBeat: 0, lengthBeats: 0.3, pitch: 36, velocity: 110, channel: 9 }];
  for (let at = 0; at < bars * 4 - 0.01; at += at % 0.5 === 0 ? chance.pick([0.25, 0.25, 0.5]) : 0.25)
    notes.push({
      startBeat: at,
      lengthBeats: 0.2,
      pitch: chance.pick([38, 38, 41, 45, 48, 50, 36]),
      velocity: chance.whole(60, 122),
      channel: 9,
    });
  return loopOf('fill', 'kit', { ...shape, bars, playing: { ...shape.playing, bars } }, [{ instrument: 'kit', notes, gain: 1 }], null);
};

/** Sixteenths from one beat to the next. */
const beatSteps = ({ meter }: Frame): number => (meter === '6/8' ? 6 : 4);

interface Voicing {
  readonly centre: number;
  readonly hold: number;
  readonly strum: number;
}

const note = (startBeat: number, lengthBeats: number, pitch: number, velocity: number): Note => ({
  startBeat,
  lengthBeats: Math.max(0.08, lengthBeats),
  pitch,
  velocity: Math.max(20, Math.min(127, Math.round(velocity))),
  channel: 0,
});

function hits(chance: Chance, shape: Frame, rhythm: Steps): { at: number; length: number; strength: number }[] {
  const total = shape.bars * shape.playing.barQuarters,
    places: { at: number; strength: number }[] = [];
  for (let step = 0; step < total * 4; step++) {
    const strength = rhythm[step % rhythm.length];
    if (strength > 0) places.push({ at: step / 4, strength });
  }
  return places.map(({ at, strength }, k) => ({ at, strength, length: (places[k + 1]?.at ?? total) - at }));
}

const place = (at: number, shape: Frame, chance: Chance): number =>
  Math.max(0, swung(at, shape.playing) + (at === 0 ? 0 : chance.normal(shape.playing.loose)));

function comp(chance: Chance, shape: Frame, harmony: Harmony, rhythm: Steps | null, { centre, hold, strum }: Voicing): Note[] {
  let before: number[] | null = null,
    last: unknown = null;
  const notes: Note[] = [];
  const list = rhythm
    ? hits(chance, shape, rhythm)
    : harmony.chords.map((chord) => ({ at: chord.startBeat, length: chord.lengthBeats, strength: 0.75 }));
  for (const { at, length, strength } of list) {
    const chord = chordAt(harmony.chords, at);
    if (chord !== last || !before) before = voicing(chord, centre, before, chance);
    last = chord;
    const until = Math.min(length, Math.max(0.25, chord.startBeat + chord.lengthBeats - at));
    before.forEach((pitch, k) =>
      notes.push(note(place(at, shape, chance) + k * strum, until * hold, pitch, 50 + 50 * strength + chance.normal(6))),
    );
  }
  return notes;
}

function arpeggio(chance: Chance, shape: Frame, harmony: Harmony, centre: number): Note[] {
  const step = chance.pick(shape.meter === '4/4' ? [0.25, 0.5, 0.25, 1 / 3] : [0.25, 0.5, 0.5]),
    order = chance.pick([
      [0, 1, 2, 1],
      [0, 2, 1, 3],
      [0, 1, 2, 3],
      [3, 2, 1, 0],
      [0, 1, 2],
    ]),
    hold = chance.pick([0.7, 0.95, 1.6]);
  let before: number[] | null = null;
  return harmony.chords.flatMap((chord) => {
    before = voicing(chord, centre, before, chance);
    const tones = [...before, before[0] + 12];
    return Array.from({ length: Math.round(chord.lengthBeats / step) }, (_, k) =>
      note(
        place(chord.startBeat + k * step, shape, chance),
        step * hold,
        tones[order[k % order.length] % tones.length],
        chance.whole(70, 106),
      ),
    );
  });
}

function melody(chance: Chance, shape: Frame, harmony: Harmony, low: number, high: number): Note[] {
  // Five notes of the seven in every fourth tune, with the blue note in some.
  const five = chance.yes(0.25) ? (harmony.key.mode === 'minor' ? [0, 3, 5, 7, 10] : [0, 2, 4, 7, 9]) : null,
    scale: readonly number[] = five
      ? [...five, ...(chance.yes(0.3) ? [harmony.key.mode === 'minor' ? 6 : 3] : [])].sort((a, b) => a - b)
      : scales[harmony.scale],
    passing = chance.pick([0, 0, 0.05]);
  const ladder = Array.from({ length: high - low }, (_, k) => low + k).filter((pitch) =>
    scale.includes((pitch - harmony.key.tonic + 120) % 12),
  );
  const grid = chance.pick([0.5, 0.5, 0.25, 1]),
    motif = Array.from({ length: chance.whole(3, 6) }, () => chance.pick([1, 1, 2, 2, 3, 4]) * grid),
    total = shape.bars * shape.playing.barQuarters,
    notes: Note[] = [];
  let at = 0,
    index = chance.whole(Math.floor(ladder.length * 0.3), Math.floor(ladder.length * 0.7));
  for (let k = 0; at < total - 0.01; k++) {
    const length = Math.min(total - at, chance.yes(0.8) ? motif[k % motif.length] : chance.pick([1, 2, 3]) * grid);
    const chord = chordAt(harmony.chords, at),
      tones = ladder.filter((pitch) => chord.intervals.some((interval) => (chord.root + interval - pitch + 120) % 12 === 0));
    if ((at % 1 < 0.01 && chance.yes(0.7)) || k === 0) {
      const near = (tones.length ? tones : ladder).reduce((best, pitch) =>
        Math.abs(pitch - ladder[index]) < Math.abs(best - ladder[index]) ? pitch : best,
      );
      index = ladder.indexOf(near);
    } else index = Math.max(0, Math.min(ladder.length - 1, index + chance.pick([-2, -1, -1, 1, 1, 2])));
    if (chance.yes(0.88) || k === 0)
      notes.push(
        note(
          place(at, shape, chance),
          length * chance.pick([0.6, 0.9, 0.98]),
          ladder[index] + (chance.yes(passing) ? chance.pick([-1, 1]) : 0),
          chance.whole(72, 114),
        ),
      );
    at += length;
  }
  return notes;
}

function bassLine(chance: Chance, shape: Frame, harmony: Harmony): Note[] {
  const how = chance.pick(['root', 'root', 'fifth', 'octave', 'walk', 'free', 'free']),
    lowest = chance.pick([26, 28, 31]);
  const low = (root: number) => lowest + ((root - lowest + 120) % 12);
  if (how === 'walk')
    return Array.from({ length: shape.bars * shape.playing.barQuarters }, (_, beat) => {
      const chord = chordAt(harmony.chords, beat),
        following = chordAt(harmony.chords, (beat + 1) % (shape.bars * shape.playing.barQuarters));
      const pitch =
        beat === chord.startBeat
          ? low(chord.root)
          : following !== chord
            ? low(following.root) + chance.pick([-1, 1, 2, -2])
            : low(chord.root) + chance.pick([...chord.intervals.slice(1, 3), 12]);
      return note(place(beat, shape, chance), 0.9, pitch, chance.whole(80, 108));
    });
  if (shape.meter !== '4/4' && chance.yes(0.4))
    return harmony.chords.flatMap(({ startBeat, lengthBeats, root }) =>
      // On the bar lines alone, or on the two beats of a six.
      Array.from({ length: Math.max(1, Math.round(lengthBeats / (shape.meter === '6/8' ? 1.5 : 3))) }, (_, k) =>
        note(
          place(startBeat + k * (shape.meter === '6/8' ? 1.5 : 3), shape, chance),
          chance.pick([0.8, 1.3]),
          low(root) + (k % 2 ? chance.pick([0, 7]) : 0),
          chance.whole(80, 112),
        ),
      ),
    );
  const rhythm = chance.pick([
    scattered(chance, shape.playing.barQuarters * 4, 0.35, beatSteps(shape)).map((v, k) => (k === 0 ? 1 : v)),
    euclid(chance.pick([3, 4, 5, 8]), shape.playing.barQuarters * 4, 0),
    scattered(chance, shape.playing.barQuarters * 4, 0.3, beatSteps(shape)),
  ]);
  const passing = chance.pick([0, 0, 0.05]);
  return hits(chance, shape, rhythm).map(({ at, length }, k) => {
    const chord = chordAt(harmony.chords, at),
      root = low(chord.root) + (k > 0 && chance.yes(passing) ? chance.pick([-1, 1]) : 0);
    const step =
      how === 'octave'
        ? k % 2
          ? 12
          : 0
        : how === 'fifth'
          ? chance.pick([0, 0, 0, 7])
          : how === 'free'
            ? chance.pick([0, 0, 0, 12, 7, -2, chord.intervals[1]])
            : 0;
    return note(place(at, shape, chance), length * chance.pick([0.5, 0.8, 0.95]), root + step, chance.whole(78, 114));
  });
}

const compRhythm = (chance: Chance, shape: Frame): Steps => {
  const steps = shape.playing.barQuarters * 4;
  // A waltz puts its chords on two and three, a six its weight on one and four.
  if (shape.meter === '3/4' && chance.yes(0.6))
    return chance.pick([
      [0, 0, 0, 0, 0.75, 0, 0, 0, 0.75, 0, 0, 0],
      [1, 0, 0, 0, 0.6, 0, 0, 0, 0.6, 0, 0, 0],
      [1, 0, 0, 0, 0, 0, 0, 0, 0.6, 0, 0, 0],
      [1, 0, 0, 0, 0, 0, 0.6, 0, 0.6, 0, 0, 0],
    ]);
  if (shape.meter === '6/8' && chance.yes(0.6))
    return chance.pick([
      [1, 0, 0, 0, 0, 0, 0.8, 0, 0, 0, 0, 0],
      [1, 0, 0.4, 0, 0.4, 0, 0.8, 0, 0.4, 0, 0.4, 0],
      [1, 0, 0, 0, 0.5, 0, 0.8, 0, 0, 0, 0.5, 0],
    ]);
  return chance.pick([
    euclid(chance.pick([2, 3, 4, 5]), steps, 0),
    scattered(chance, steps, 0.3, beatSteps(shape)).map((v, k) => (k === 0 ? 1 : v)),
    scattered(chance, steps, 0.25, beatSteps(shape)),
    Array.from({ length: steps }, (_, k) => (k % 4 === 0 ? 0.75 : 0)),
    Array.from({ length: steps }, (_, k) => (k % 4 === 2 ? 0.75 : 0)),
  ]);
};

type Player = (chance: Chance, shape: Frame, harmony: Harmony) => Note[];
const held: Player = (chance, shape, harmony) =>
  comp(chance, shape, harmony, null, { centre: chance.pick([55, 60, 64, 67]), hold: 1, strum: 0 });
const compPlayer: Player = (chance, shape, harmony) =>
  comp(chance, shape, harmony, compRhythm(chance, shape), {
    centre: chance.pick([55, 60, 64]),
    hold: chance.pick([0.4, 0.7, 0.95]),
    strum: 0.003,
  });
const strum: Player = (chance, shape, harmony) =>
  comp(
    chance,
    shape,
    harmony,
    Array.from({ length: shape.playing.barQuarters * 4 }, (_, k) => (k === 0 || chance.yes(k % 2 ? 0.25 : 0.75) ? 0.75 : 0)),
    {
      centre: 55,
      hold: 0.9,
      strum: chance.pick([0.015, 0.03, 0.05]),
    },
  );
const stab: Player = (chance, shape, harmony) =>
  comp(chance, shape, harmony, scattered(chance, shape.playing.barQuarters * 4, 0.12, beatSteps(shape)), {
    centre: 62,
    hold: 0.3,
    strum: 0,
  });
const tune =
  (low: number, high: number): Player =>
  (chance, shape, harmony) =>
    melody(chance, shape, harmony, low, high);
const arp =
  (centre: number): Player =>
  (chance, shape, harmony) =>
    arpeggio(chance, shape, harmony, centre);
const ostinato: Player = (chance, shape, harmony) => {
  const pitch = 12 * chance.pick([3, 4, 5]) + harmony.key.tonic;
  return hits(chance, shape, scattered(chance, shape.playing.barQuarters * 4, 0.4, beatSteps(shape))).map(({ at }) =>
    note(place(at, shape, chance), 0.25, pitch + (chance.yes(0.15) ? 12 : 0), chance.whole(80, 112)),
  );
};
const riff: Player = (chance, shape, harmony) => {
  const scale = scales[harmony.scale],
    base = 40 + ((harmony.key.tonic - 4 + 12) % 12),
    figure = Array.from(
      { length: chance.whole(4, 7) },
      () => [chance.pick([0, 0, 0, 2, 3, 4, -1]), chance.pick([0.5, 0.5, 0.75, 1])] as const,
    ),
    power = chance.yes(0.5),
    notes: Note[] = [];
  for (let at = 0, k = 0; at < shape.bars * shape.playing.barQuarters - 0.01; k++) {
    const [degree, length] = figure[k % figure.length];
    const pitch = base + scale[(degree + 7) % 7] + (degree < 0 ? -12 : 0);
    for (const each of power ? [pitch, pitch + 7, pitch + 12] : [pitch])
      notes.push(note(place(at, shape, chance), length * 0.85, each, chance.whole(84, 112)));
    at += length;
  }
  return notes;
};

/** Who plays what, with weights that make the families about even. */
const pitchedPlayers: readonly (readonly [instrument: string, weight: number, players: readonly Player[], slow?: boolean])[] = [
  ['piano', 4, [compPlayer, compPlayer, arp(64), tune(60, 86), held, ostinato]],
  ['electric-piano', 4, [compPlayer, compPlayer, held, stab, arp(62), tune(58, 84), ostinato]],
  ['organ', 3.5, [compPlayer, held, held, stab, arp(62), tune(57, 84)]],
  ['clavinet', 1.5, [compPlayer, stab, riff, tune(48, 76)]],
  ['harpsichord', 2.5, [arp(64), arp(60), compPlayer, tune(58, 86), stab]],
  ['accordion', 2, [compPlayer, tune(60, 84), held, stab, arp(62)]],
  ['acoustic-guitar', 4, [strum, strum, arp(57), tune(55, 79), compPlayer, ostinato]],
  ['electric-guitar', 4.5, [strum, riff, riff, stab, tune(52, 79), arp(57), ostinato]],
  ['banjo', 0.8, [arp(62), strum]],
  ['upright-bass', 2.5, [bassLine]],
  ['electric-bass', 4, [bassLine]],
  ['synth-bass', 5, [bassLine, bassLine, ostinato]],
  ['sub-bass', 2.5, [bassLine]],
  ['strings', 3.5, [held, held, stab, tune(60, 84)], true],
  ['violin', 2, [tune(60, 88)], true],
  ['cello', 2, [tune(40, 64)], true],
  ['pizzicato', 1.5, [arp(62), tune(55, 79), compPlayer]],
  ['harp', 1.5, [arp(65), arp(58), tune(58, 86)]],
  ['brass', 3, [stab, held, compPlayer, tune(50, 72)]],
  ['trumpet', 2.5, [tune(58, 82), stab]],
  ['trombone', 1.5, [tune(43, 67)]],
  ['sax', 3, [tune(50, 79), tune(50, 79), stab]],
  ['flute', 3, [tune(65, 90)]],
  ['clarinet', 2.5, [tune(52, 80)]],
  ['bells', 3, [tune(65, 92), arp(70), compPlayer]],
  ['marimba', 2, [arp(64), tune(55, 84), compPlayer, ostinato]],
  ['kalimba', 1.2, [arp(67), tune(62, 86), compPlayer, ostinato]],
  ['choir', 3, [held, held, tune(55, 76)], true],
  ['voice', 3.5, [tune(53, 76), tune(53, 76), held], true],
  ['synth-lead', 5, [tune(55, 84), tune(55, 84), arp(66), ostinato]],
  ['synth-pluck', 4, [arp(66), compPlayer, tune(57, 84), stab]],
  ['synth-pad', 7, [held], true],
];

const tonal = (chance: Chance): Piece => {
  const [instrument, , players, slow] = chance.weighted(pitchedPlayers.map((row) => [row, row[1]] as const)),
    shape = frame(chance, [58, 184], { slow }),
    harmony = makeHarmony(chance, shape.bars, shape.playing.barQuarters),
    player = chance.pick(players);
  const notes = player(chance, shape, harmony);
  // Chords that change slower than twice a loop tell no tempo.
  const tempoHeard = player !== held || harmony.chords.length >= 3;
  return loopOf(`tonal:${instrumentById(instrument)?.family}`, instrument, shape, [{ instrument, notes, gain: 1 }], harmony, tempoHeard);
};

const mix = (chance: Chance): Piece => {
  const style = chance.pick(['four', 'broken', 'rock', 'half', 'shuffled', 'fast', 'island'] as const),
    shape = frame(chance, grooves[style].tempos, {
      slow: true,
      meter: chance.weighted([
        ['4/4', 90],
        ['3/4', 6],
        ['6/8', 4],
      ] as const),
      swing: grooves[style].swing,
    }),
    harmony = makeHarmony(chance, shape.bars, shape.playing.barQuarters);
  const parts: Part[] = [
    { instrument: 'kit', notes: drumNotes(chance, style, shape), gain: chance.between(0.7, 1) },
    {
      instrument: chance.pick(['electric-bass', 'synth-bass', 'upright-bass', 'sub-bass']),
      notes: bassLine(chance, shape, harmony),
      gain: chance.between(0.7, 1),
    },
    {
      instrument: chance.pick(['piano', 'electric-piano', 'organ', 'electric-guitar', 'strings', 'synth-pad', 'brass', 'acoustic-guitar']),
      notes: chance.pick([compPlayer, held, strum])(chance, shape, harmony),
      gain: chance.between(0.5, 0.9),
    },
  ];
  if (chance.yes(0.5))
    parts.push({
      instrument: chance.pick(['synth-lead', 'sax', 'flute', 'trumpet', 'voice', 'bells']),
      notes: melody(chance, shape, harmony, 60, 84),
      gain: chance.between(0.4, 0.8),
    });
  return loopOf('mix', 'full-mix', shape, parts, harmony);
};

function single(style: string, instrument: string, notes: readonly Note[], key: Piece['key'], keyStatus: Piece['keyStatus']): Piece {
  return {
    style,
    instrument,
    isLoop: false,
    parts: [{ instrument, notes, gain: 1 }],
    tempoBpm: 60,
    meter: '4/4',
    bars: 0,
    key,
    keyStatus,
    chords: [],
    tempoHeard: false,
  };
}

const drumHits: readonly (readonly [instrument: string, keys: readonly number[]])[] = [
  ['kick', [36, 35]],
  ['kick', [36]],
  ['snare', [38, 40, 37]],
  ['snare', [38, 40]],
  ['clap', [39]],
  ['hats', [42, 46, 44]],
  ['hats', [49, 51, 57, 59]],
  ['toms', [41, 43, 45, 47, 48, 50]],
  ['shaker', [70, 82, 69]],
  ['tambourine', [54]],
  ['conga', [60, 61, 62, 63, 64, 65, 66]],
  ['woodblock', [75, 76, 77, 56, 67, 68, 80, 81]],
];

/** Hits as libraries hold them, in which hand percussion weighs as much as the drum kit. */
const handHits: typeof drumHits = [
  ...drumHits,
  ...(Array.from({ length: 4 }, () => ['conga', [60, 61, 62, 63, 64, 65, 66]]) as (typeof drumHits)[number][]),
  ['woodblock', [75, 76, 77, 56, 67, 68, 80, 81]],
  ['shaker', [70, 82, 69, 73, 74]],
  ...(Array.from({ length: 2 }, () => ['percussion', blipKeys]) as (typeof drumHits)[number][]),
];

const drumHit = (chance: Chance, hits: typeof drumHits): Piece => {
  const [instrument, keys] = chance.pick(hits);
  return single(
    'hit',
    instrument,
    [{ startBeat: 0, lengthBeats: 0.4, pitch: chance.pick(keys), velocity: chance.whole(70, 125), channel: 9 }],
    null,
    'atonal',
  );
};

const tonalHit = (chance: Chance): Piece => {
  const [instrument] = chance.weighted(pitchedPlayers.map((row) => [row, row[1]] as const)),
    family = instrumentById(instrument)?.family,
    tonic = chance.whole(0, 11),
    base = (family === 'bass' ? chance.pick([28, 28, 40]) : chance.pick([48, 60, 60, 72])) + tonic;
  const chord =
    family !== 'bass' && family !== 'wind' && chance.yes(0.3)
      ? chance.pick([
          [0, 4, 7],
          [0, 3, 7],
          [0, 3, 7, 10],
          [0, 4, 7, 11],
        ])
      : [0];
  const length = chance.ratio(0.2, 2.5),
    velocity = chance.whole(75, 120);
  return single(
    chord.length > 1 ? 'chord-hit' : 'note-hit',
    instrument,
    chord.map((step) => note(0, length, base + step, velocity)),
    { tonic, mode: chord[1] === 4 ? 'major' : 'minor' },
    chord.length > 1 ? 'ambiguous' : 'tonicOnly',
  );
};

/** Sounds that move or hit and have no notes; `training/material/effects.ts` makes them from the pitch, which is only a seed here. */
const effect = (chance: Chance): Piece => {
  const instrument = chance.weighted([
    ['riser', 3],
    ['downlifter', 2],
    ['impact', 3],
    ['texture', 3],
    ['zap', 3],
  ] as const);
  return single(`fx:${instrument}`, instrument === 'zap' ? 'impact' : instrument, [note(0, chance.ratio(0.5, 6), 60, 100)], null, 'atonal');
};

type Maker = (chance: Chance) => Piece;
const harmonic: readonly Maker[] = [tonal, mix];

/** What pieces there are, with how many of each; `hits` times as many single sounds as usual, `broad`: with more hand percussion. */
const makers = (hits: number, broad: boolean): readonly (readonly [Maker, number])[] => [
  [drums, 20],
  [soloDrum, 7],
  [perc, 12],
  [drumFill, 1.5],
  [tonal, 46],
  [mix, 6],
  [(chance) => drumHit(chance, broad ? handHits : drumHits), 10 * hits],
  [tonalHit, 6 * hits],
  [effect, 6 * hits],
];
const compose = (seed: number, list: readonly (readonly [Maker, number])[]): Piece => {
  const chance = new Chance(seed);
  return chance.weighted(list)(chance);
};

/** One piece from a seed; the same for the same seed. See `makers` for the rest. */
export const composePiece = (seed: number, hits = 1, broad = false): Piece => compose(seed, makers(hits, broad));

/** A loop with notes, for what only such loops can teach: keys. */
export const composeTonal = (seed: number): Piece =>
  compose(
    seed,
    makers(1, false).filter(([maker]) => harmonic.includes(maker)),
  );

/** A piece without harmony: drums, hand percussion, single sounds, effects. */
export const composeUntuned = (seed: number, hits = 1, broad = false): Piece =>
  compose(
    seed,
    makers(hits, broad).filter(([maker]) => !harmonic.includes(maker)),
  );
