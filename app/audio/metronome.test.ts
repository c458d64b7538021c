import { transportAt } from '../../test/audio/transport';
import { FakeGain, forgetSources, installFakeAudio, sources } from '../../test/audio/fake-audio';
import { Metronome } from './metronome';
import type { Transport } from './transport';

installFakeAudio();
/** A buffer that is known by how high its tone is: zero crossings in its 30 ms. */
class ClickBuffer {
  private readonly plane: Float32Array;
  constructor({ length }: { readonly length: number }) {
    this.plane = new Float32Array(length);
  }
  getChannelData(): Float32Array {
    return this.plane;
  }
  get name(): string {
    const crossings = this.plane.slice(1).filter((value, i) => value >= 0 && this.plane[i] < 0).length;
    return crossings > 40 ? 'bar' : 'beat';
  }
}
Object.assign(globalThis, { AudioBuffer: ClickBuffer });
beforeEach(forgetSources);

const lead = 1000;
/** Playing begins a little ahead, so that the first beat can be handed over in time. */
const transport = (changes: Partial<Transport> = {}) => transportAt({ originFrame: lead, ...changes });
const beatFrames = 22050;
const metronome = () => new Metronome({} as AudioContext, new FakeGain() as unknown as AudioNode);
const clicks = () => sources.map(({ name, startFrame }) => [name, startFrame - lead]);

test('clicks on every beat up to the horizon, higher on the first of a bar', () => {
  metronome().scheduleAhead(transport(), 0, lead + 5 * beatFrames, 0, Infinity);
  expect(clicks()).toEqual([
    ['bar', 0],
    ['beat', beatFrames],
    ['beat', 2 * beatFrames],
    ['beat', 3 * beatFrames],
    ['bar', 4 * beatFrames],
  ]);
});

test('pumped again and again, no beat clicks twice and none is left out', () => {
  const clicking = metronome();
  for (let now = 0; now < 8 * beatFrames; now += 3000) clicking.scheduleAhead(transport({ barBeats: 3 }), now, now + 12_000, 0, Infinity);
  expect(clicks().map(([, frame]) => frame)).toEqual(Array.from({ length: sources.length }, (_, k) => k * beatFrames));
  expect(sources.length).toBeGreaterThanOrEqual(8);
  expect(clicks().map(([name]) => name === 'bar')).toEqual(sources.map((_, k) => k % 3 === 0));
});

test('a count-in begins before the music, on the bar', () => {
  metronome().scheduleAhead(transport({ originFrame: 4 * beatFrames + lead }), 0, lead + 5 * beatFrames, -4, 0);
  expect(clicks()).toEqual([
    ['bar', 0],
    ['beat', beatFrames],
    ['beat', 2 * beatFrames],
    ['beat', 3 * beatFrames],
  ]);
});

test('taken back, what has begun rings out and what has not is silent; then the new grid counts', () => {
  const clicking = metronome();
  clicking.scheduleAhead(transport(), 0, lead + 4 * beatFrames, 0, Infinity);
  clicking.reset(lead + beatFrames + 10);
  expect(sources.map(({ connected }) => connected)).toEqual([true, true, false, false]);
  forgetSources();
  clicking.scheduleAhead(transport({ tempoBpm: 60 }), lead + beatFrames + 10, lead + 5 * beatFrames, 0, Infinity);
  expect(clicks()).toEqual([
    ['beat', 2 * beatFrames],
    ['beat', 4 * beatFrames],
  ]);
});
