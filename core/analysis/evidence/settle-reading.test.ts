import { reading } from '../../../test/generators/readings';
import type { FactValues } from '../attributes/registry';
import { evidence, type Attribute, type Evidence } from '../facts';
import { settleReading } from './settle-reading';

const readings = [reading(120, 4, 0, 0.7), reading(60, 2, 0, 0.2), reading(120, 4, 0.05, 0.1)],
  heard = evidence(
    'tempo',
    'sound',
    [
      { value: 120, probability: 0.8 },
      { value: 60, probability: 0.2 },
    ],
    '',
  ) as Evidence;
const said = <A extends Attribute>(attribute: A, value: FactValues[A]) =>
  evidence(attribute, 'person', [{ value, probability: 1 }], '') as Evidence;
const settle = (...more: readonly Evidence[]) => settleReading(readings, [heard, ...more], 8);

test('nobody else speaks: the likeliest', () => expect(settle()).toMatchObject({ tempoBpm: 120, bars: 4, beats: 16, startSeconds: 0 }));

test('a name turns it, a person outranks the name', () => {
  const name = evidence('tempo', 'file-name', [{ value: 60, probability: 0.9 }], '') as Evidence;
  expect(settle(name)).toMatchObject({ tempoBpm: 60, bars: 2 });
  expect(settle(name, said('tempo', 120))).toMatchObject({ tempoBpm: 120, bars: 4 });
});

test('a first bar and beats that a person gave are kept', () => {
  expect(settle(said('start', 0.5))).toMatchObject({ tempoBpm: 120, startSeconds: 0.5, bars: 3 });
  expect(settle(said('beats', 8))).toMatchObject({ tempoBpm: 60, beats: 8, bars: 2 });
});

test('that it is no loop is another question', () => expect(settle(said('kind', 'one-shot'))).toMatchObject({ tempoBpm: 120, bars: 4 }));

test('without readings there is none; a meter that is never heard has the bars that it says', () => {
  expect(settleReading([], [heard], 8)).toBeUndefined();
  expect(settle(said('meter', '7/8'))).toMatchObject({ tempoBpm: 120, meter: 'unknown', beats: 14, bars: 2 });
});
