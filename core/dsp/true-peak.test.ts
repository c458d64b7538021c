import { TruePeak } from './true-peak';

/** A sine whose samples miss its top: a quarter of the rate, at 45 degrees (the case of EBU Tech 3341, test 15 and following). */
const missed = (amplitude: number) => Float32Array.from({ length: 4096 }, (_, i) => amplitude * Math.sin((Math.PI / 2) * i + Math.PI / 4));

test('finds the top between the samples: −6.0 dBTP within +0.2 and −0.4 dB (EBU Tech 3341), where samples say −9', () => {
  const signal = missed(0.5),
    found = 20 * Math.log10(new TruePeak().next(signal));
  expect(20 * Math.log10(Math.max(...signal.map(Math.abs)))).toBeLessThan(-9);
  expect(found).toBeGreaterThan(-6.4);
  expect(found).toBeLessThan(-5.8);
});

test('block by block it is the same as at once', () => {
  const signal = missed(0.8),
    meter = new TruePeak();
  let highest = 0;
  for (let at = 0; at < signal.length; at += 128) highest = Math.max(highest, meter.next(signal.subarray(at, at + 128)));
  expect(highest).toBeCloseTo(new TruePeak().next(signal), 12);
});

test('silence and nothing are 0; a constant is itself within 3 %', () => {
  expect(new TruePeak().next(new Float32Array(128))).toBe(0);
  expect(new TruePeak().next(new Float32Array(0))).toBe(0);
  const meter = new TruePeak();
  meter.next(new Float32Array(128).fill(0.5));
  expect(Math.abs(meter.next(new Float32Array(128).fill(0.5)) - 0.5)).toBeLessThan(0.015);
});
