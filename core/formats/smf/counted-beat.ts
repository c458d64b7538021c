import { beatsPerBar, quartersPerBeat } from '../../units/time';
import { unsaidTempoBpm, type MidiFile } from './parse';

/** How a file's beats are counted: what a beat is in quarters, how many make a bar, how many pass in a minute. */
export interface CountedBeat {
  readonly beatQuarters: number;
  readonly barBeats: number;
  readonly tempoBpm: number;
}

/** Within these a tempo can be counted by people; sixteenths of 13/16 go by too fast, and are counted in twos. */
const slowestBpm = 20,
  fastestBpm = 400;

/** The file counts quarters, whatever its meter; people count what its meter says, or as much slower or faster as can be counted. */
export function countedBeat({ meter, tempoBpm }: Pick<MidiFile, 'meter' | 'tempoBpm'>): CountedBeat {
  const written = meter ?? '4/4';
  let beatQuarters = quartersPerBeat(written),
    barBeats = beatsPerBar(written),
    counted = (tempoBpm ?? unsaidTempoBpm) / beatQuarters;
  const count = (factor: number) => {
    beatQuarters *= factor;
    barBeats /= factor;
    counted /= factor;
  };
  while (counted > fastestBpm) count(2);
  while (counted < slowestBpm) count(0.5);
  return { beatQuarters, barBeats, tempoBpm: counted };
}
