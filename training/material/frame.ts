import type { Note } from '../../core/formats/smf/parse';
import type { Chance } from './chance';
import { judgeKey, type Harmony } from './harmony';
import { quartersPerBar, type Part, type Piece } from './piece';
import type { Playing, Steps } from './rhythm';

/** How a piece is framed: tempo, meter, bars, and how loosely it is played. */
export interface Frame {
  readonly tempoBpm: number;
  readonly meter: Piece['meter'];
  readonly bars: number;
  readonly playing: Playing;
}

/** Tempo, meter and length as vendors make them: mostly whole tempos, mostly 4/4, mostly 1 to 8 bars. */
export function frame(
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

export const toMeter = (line: Steps, meter: Piece['meter'], chance: Chance): Steps => {
  if (meter === '4/4') return line;
  // Twelve sixteenths: three beats of four, or two of six.
  if (meter === '3/4') return [...line.slice(0, 4), ...(chance.yes(0.5) ? line.slice(4, 8) : line.slice(8, 12)), ...line.slice(4, 8)];
  const eighths = Array.from({ length: 6 }, (_, k) => line[[0, 2, 4, 8, 10, 12][k]] || 0);
  return eighths.flatMap((value) => [value, 0]);
};

export function loopOf(
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

/** A sound that is no loop. */
export function single(style: string, instrument: string, notes: readonly Note[], key: Piece['key'], keyStatus: Piece['keyStatus']): Piece {
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
