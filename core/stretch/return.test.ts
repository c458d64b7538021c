import { KernelNumbers } from '../dsp/kernels/kernels';
import { RegionFinder } from './regions';
import { copyOfFrame, Return, type Frame } from './return';

const bins = 16;
/** A frame with one tone in bin 5 of so much and at such a phase. */
function tone(level: number, phase: number): Frame {
  const spectrum = new Float32Array(2 * bins);
  [0.5, 1, 0.5].forEach((share, k) => {
    spectrum[2 * (4 + k)] = level * share * Math.cos(phase);
    spectrum[2 * (4 + k) + 1] = level * share * Math.sin(phase);
  });
  return copyOfFrame({ spectra: [spectrum], regions: new RegionFinder(bins).find([KernelNumbers.of(spectrum)]) });
}
const phaseOf = ({ spectra: [spectrum] }: Frame, bin = 5): number => Math.atan2(spectrum[2 * bin + 1], spectrum[2 * bin]);

test('a tone that goes on arrives at the phase it began with, a little more from frame to frame', () => {
  const back = new Return(tone(1, 1), tone(1, 0.2), tone(1, 3), 7, 2),
    phases = [8, 7, 4, 1, 0].map((framesLeft) => {
      const frame = tone(1, 1);
      back.apply(frame, framesLeft);
      return phaseOf(frame);
    });
  [1, 0.9, 0.6, 0.3, 0.2].forEach((phase, k) => expect(phases[k]).toBeCloseTo(phase, 5));
});

test('the way round is the short one', () => {
  const frame = tone(1, 3);
  new Return(tone(1, 3), tone(1, -3), tone(1, 0), 1, 1).apply(frame, 1);
  expect(Math.abs(phaseOf(frame))).toBeGreaterThan(3);
});

test('what begins anew at the start returns in the last frames only', () => {
  const back = new Return(tone(1, 1), tone(1, 0.2), tone(0.1, 3), 7, 2),
    far = tone(0.1, 1),
    near = tone(0.1, 1);
  back.apply(far, 4);
  back.apply(near, 1);
  expect(phaseOf(far)).toBeCloseTo(1, 6);
  expect(phaseOf(near)).toBeCloseTo(1 - (0.8 * 2) / 3, 5);
});

test('a region is turned as a whole, by what is asked for at its peak', () => {
  const frame = tone(1, 1);
  new Return(tone(1, 1), tone(1, 0), tone(1, 0), 1, 1).apply(frame, 1);
  for (const bin of [4, 5, 6]) expect(phaseOf(frame, bin)).toBeCloseTo(0.5, 5);
});
