import { hear } from '../listen/hear';
import { strokeFeatures } from './stroke';

const rateHz = 44100;
/** A second of a damped sound that begins after a twentieth of a second. */
const damped = (decaySeconds: number, wave: (seconds: number) => number, gain = 0.5): Float32Array =>
  Float32Array.from({ length: rateHz }, (_, i) => {
    const t = i / rateHz - 0.05;
    return t < 0 ? 0 : gain * Math.exp(-t / decaySeconds) * wave(t);
  });
const of = (sound: Float32Array): number[] => strokeFeatures(hear({ sampleRateHz: rateHz, channels: [sound] }));
const sine =
  (hz: number, ...more: number[]) =>
  (t: number) =>
    [hz, ...more].reduce((sum, each) => sum + Math.sin(2 * Math.PI * each * t), 0) / (more.length + 1);
/** A tone that glides from one frequency to another, to 1/e in a tenth of a second. */
const gliding = (from: number, to: number) => (t: number) =>
  Math.sin(2 * Math.PI * (to * t + (from - to) * 0.1 * (1 - Math.exp(-t / 0.1))));

/** Seven slices of ten groups of bands, the loudest 0; then the lowest tone with its four steps; then partials. */
const image = (features: number[], slice: number): number[] => features.slice(slice * 10, slice * 10 + 10),
  glides = (features: number[]): number[] => [71, 73, 75, 77].map((at) => features[at]),
  unharmonic = (features: number[]): number => features[features.length - 3];

test('as many numbers whatever comes, and numbers they are', () => {
  const usual = of(damped(0.2, sine(200))).length;
  for (const sound of [
    new Float32Array(rateHz),
    Float32Array.of(0.5),
    new Float32Array(300).fill(0.3),
    Float32Array.from({ length: 5000 }, (_, k) => Math.sin(k * k)),
  ]) {
    const features = of(sound);
    expect(features).toHaveLength(usual);
    expect(features.every(Number.isFinite)).toBe(true);
  }
});

test('quiet or loud, it is the same stroke', () => {
  const loud = of(damped(0.2, sine(220, 660))),
    quiet = of(damped(0.2, sine(220, 660), 0.02));
  loud.forEach((value, k) => expect(quiet[k]).toBeCloseTo(value, 1));
});

test('a tone that falls, stands or rises is told by its first steps', () => {
  const [falls, stands, rises] = [gliding(300, 100), sine(150), gliding(100, 250)].map((wave) => glides(of(damped(0.5, wave)))[0]);
  expect(falls).toBeLessThan(-0.1);
  expect(Math.abs(stands)).toBeLessThan(0.03);
  expect(rises).toBeGreaterThan(0.1);
});

test('what is damped sooner has died away in the later slices', () => {
  const short = of(damped(0.02, sine(200))),
    long = of(damped(0.15, sine(200))),
    loudest = (features: number[], slice: number) => Math.max(...image(features, slice));
  expect(Math.max(...short.slice(0, 70))).toBeCloseTo(0, 5);
  expect(loudest(long, 4)).toBeGreaterThan(loudest(short, 4) + 2);
  expect(loudest(long, 1)).toBeGreaterThan(-1);
});

test('high and low lie in different groups of bands', () => {
  const low = image(of(damped(0.3, sine(120))), 3),
    high = image(of(damped(0.3, sine(6000))), 3);
  expect(low[0]).toBeGreaterThan(low[7]);
  expect(high[7]).toBeGreaterThan(high[0]);
});

test('overtones in whole numbers are nearer to harmony than those of a skin', () => {
  const string = of(damped(0.5, sine(200, 400, 600, 800))),
    skin = of(damped(0.5, sine(200, 319, 427, 459)));
  expect(unharmonic(string)).toBeLessThan(0.1);
  expect(unharmonic(skin)).toBeGreaterThan(0.3);
});
