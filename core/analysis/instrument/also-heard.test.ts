import { chord, hits, rateHz } from '../../../test/generators/signals';
import { hear } from '../listen/hear';
import { familiesHeard } from './also-heard';
import { timbreVector } from './timbre';

const heard = (sound: Float32Array) => familiesHeard(timbreVector(hear({ sampleRateHz: rateHz, channels: [sound] })));

test('every family but the mix has a chance of its own, the surest first', () => {
  const found = heard(hits([0, 0.5, 1, 1.5], 2));
  expect(found).toHaveLength(13);
  found.forEach(({ probability }, k) => {
    expect(probability).toBeGreaterThanOrEqual(0);
    expect(probability).toBeLessThanOrEqual(1);
    if (k > 0) expect(probability).toBeLessThanOrEqual(found[k - 1].probability);
  });
});
test('chords laid under a beat leave the beat to be heard, and make notes likelier', () => {
  const beat = hits([0, 0.25, 0.5, 0.75, 1, 1.25, 1.5, 1.75], 2),
    notes = chord([48, 55, 60, 64], 2),
    both = beat.map((value, i) => value + 0.6 * notes[i]);
  const struck = (found: ReturnType<typeof heard>) =>
      Math.max(...found.filter(({ value }) => value === 'drums' || value === 'percussion').map(({ probability }) => probability)),
    tuned = (found: ReturnType<typeof heard>) =>
      Math.max(...found.filter(({ value }) => !['drums', 'percussion', 'fx'].includes(value)).map(({ probability }) => probability));
  expect(struck(heard(beat))).toBeGreaterThan(struck(heard(notes)));
  expect(tuned(heard(both))).toBeGreaterThan(tuned(heard(beat)));
  expect(struck(heard(both))).toBeGreaterThan(struck(heard(notes)));
});
