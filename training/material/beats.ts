import type { Note } from '../../core/formats/smf/parse';
import type { Chance } from './chance';
import { frame, loopOf, toMeter, type Frame } from './frame';
import type { Piece } from './piece';
import { grooves, percussion, playSteps, soloDrums, type Steps } from './rhythm';

/* Loops of the drum kit and of hand percussion. */

export function drumNotes(chance: Chance, style: keyof typeof grooves, shape: Frame): Note[] {
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

export const drums = (chance: Chance): Piece => {
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

export const soloDrum = (chance: Chance): Piece => {
  const [instrument, keys, make] = chance.pick(soloDrums),
    shape = frame(chance, [70, 170]);
  const bars = shape.bars === 1 && instrument !== 'hats' && chance.yes(0.6) ? 2 : shape.bars;
  const playing = { ...shape.playing, bars };
  const notes = playSteps(new Map([[chance.pick(keys), toMeter(make(chance), shape.meter, chance)]]), playing, chance);
  return loopOf(`solo:${instrument}`, instrument, { ...shape, bars, playing }, [{ instrument, notes, gain: 1 }], null);
};

export const perc = (chance: Chance): Piece => {
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

export const drumFill = (chance: Chance): Piece => {
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
