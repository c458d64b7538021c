import { drawThrough, partialsOfVoice } from './harmonics';

const bins = 400,
  /** Amplitude of a resonance with a half width of 3 bins, falling off to both sides. */
  resonance = (centre: number) => (bin: number) => 1 / Math.sqrt(1 + ((bin - centre) / 3) ** 2),
  /** Levels of a spectrum with lobes at every `spacing` bins, as high as an envelope there. */
  lobes = (spacing: number, envelope: (bin: number) => number, until = bins): Float32Array =>
    Float32Array.from({ length: bins }, (_, k) => {
      const nearest = Math.max(1, Math.round(k / spacing)) * spacing,
        away = Math.abs(k - nearest);
      return nearest < until ? Math.log(envelope(nearest)) - 0.6 * away * away : -12 - 0.01 * k;
    });

test('partials are found between the bins, with their levels', () => {
  const partials = partialsOfVoice(lobes(8.3, resonance(40)), 8.1);
  expect(partials.length).toBeGreaterThan(40);
  partials.slice(0, 20).forEach(({ bin, level }, n) => {
    expect(bin).toBeCloseTo(8.3 * (n + 1), 2);
    expect(level).toBeCloseTo(Math.log(resonance(40)(8.3 * (n + 1))), 2);
  });
});

test('they end where one is missing', () => {
  expect(partialsOfVoice(lobes(10, resonance(50), 95), 10)).toHaveLength(9);
  expect(partialsOfVoice(new Float32Array(bins), 10)).toHaveLength(0);
});

/** What is drawn into a flat envelope, moved so that it goes through the partial at `bin` as the truth does. */
function drawn(spacing: number, truth: (bin: number) => number, bin: number, until = bins): Float32Array {
  const envelope = new Float32Array(bins);
  drawThrough(partialsOfVoice(lobes(spacing, truth, until), spacing), envelope, 1);
  const offset = Math.log(truth(bin)) - envelope[bin];
  return envelope.map((value) => value + offset);
}

test.each([36, 39, 43, 45])('a formant at bin %d is found between partials that lie wider apart than it is broad', (centre) => {
  const truth = resonance(centre),
    envelope = drawn(8, truth, 80);
  for (let k = 4; k < 120; k++) expect(Math.abs(envelope[k] - Math.log(truth(k)))).toBeLessThan(0.7);
  let top = 0;
  envelope.forEach((value, k) => {
    if (value > envelope[top]) top = k;
  });
  expect(Math.abs(top - centre)).toBeLessThanOrEqual(1);
});

test('on the flank of a hill nothing rises above the partials', () => {
  const hill = (bin: number) => 0.01 + Math.exp(-(((bin - 40) / 16) ** 2)),
    envelope = drawn(8, hill, 40);
  for (let k = 48; k < 80; k++) expect(envelope[k]).toBeLessThanOrEqual(Math.log(hill(8 * Math.floor(k / 8))) + 0.01);
});

test('it is laid at the height of the envelope, and goes over into it at the last partial', () => {
  const envelope = new Float32Array(bins).fill(-2);
  drawThrough(partialsOfVoice(lobes(10, resonance(30), 75), 10), envelope, 1);
  expect(envelope[30]).toBeGreaterThan(-1);
  expect(envelope[10]).toBeLessThan(-2);
  expect(envelope[71]).toBe(-2);
});

test('three partials are too few, and what is surely no voice is left alone; half sure is half the way', () => {
  const flat = new Float32Array(bins).fill(-2),
    few = partialsOfVoice(lobes(10, resonance(30), 35), 10),
    many = partialsOfVoice(lobes(10, resonance(30)), 10),
    envelopes = [1, 0.5].map((weight) => {
      const envelope = flat.slice();
      drawThrough(many, envelope, weight);
      return envelope;
    });
  const untouched = flat.slice();
  drawThrough(few, untouched, 1);
  drawThrough(many, untouched, 0);
  expect(untouched).toEqual(flat);
  expect(envelopes[1][30] + 2).toBeCloseTo((envelopes[0][30] + 2) / 2, 5);
});
