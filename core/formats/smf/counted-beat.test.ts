import { countedBeat } from './counted-beat';

test.each([
  ['4/4', 120, { beatQuarters: 1, barBeats: 4, tempoBpm: 120 }],
  ['6/8', 120, { beatQuarters: 1.5, barBeats: 2, tempoBpm: 80 }],
  [null, null, { beatQuarters: 1, barBeats: 4, tempoBpm: 120 }],
  ['4/4', 500, { beatQuarters: 2, barBeats: 2, tempoBpm: 250 }],
  ['4/4', 10, { beatQuarters: 0.5, barBeats: 8, tempoBpm: 20 }],
])('%s at %d quarters a minute', (meter, tempoBpm, expected) => expect(countedBeat({ meter, tempoBpm })).toEqual(expected));
test.each([
  ['13/16', 120],
  ['7/8', 300],
  ['4/4', 900],
])('%s at %d: a bar lasts as long as it is written, at a tempo that can be kept', (meter, quarters) => {
  const { beatQuarters, barBeats, tempoBpm } = countedBeat({ meter, tempoBpm: quarters }),
    [above, below] = meter.split('/').map(Number);
  expect(tempoBpm).toBeGreaterThanOrEqual(20);
  expect(tempoBpm).toBeLessThanOrEqual(400);
  expect(beatQuarters * tempoBpm).toBeCloseTo(quarters, 9);
  expect(beatQuarters * barBeats).toBeCloseTo((above * 4) / below, 9);
});
