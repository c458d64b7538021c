import { evidence, type Evidence } from '../facts';
import { isKnownMeter } from '../tempo/candidates';
import { readingAt, type Reading } from '../tempo/read-rhythm';
import { chooseFacts } from './choose';

/**
 * The reading that names, persons and sound together speak for: bars, chords and accents are told by what is shown as tempo and first bar, not by
 * what the sound alone would say. Undefined without readings.
 */
export function settleReading(readings: readonly Reading[], all: readonly Evidence[], lengthSeconds: number): Reading | undefined {
  const [likeliest] = readings;
  if (!likeliest) return undefined;
  const rhythm = all.filter(({ attribute }) => ['tempo', 'beats', 'meter', 'start'].includes(attribute)),
    {
      tempoBpm,
      beats,
      bars,
      meter,
      firstBarSeconds: startSeconds,
    } = chooseFacts([...rhythm, evidence('kind', 'sound', [{ value: 'loop', probability: 1 }], '')], {
      firstBarSeconds: likeliest.startSeconds,
      lengthSeconds,
      readings,
    });
  if (tempoBpm === null || beats === null || bars === null || meter === null) return likeliest;
  return {
    tempoBpm,
    beats,
    bars,
    meter: isKnownMeter(meter) ? meter : 'unknown',
    startSeconds,
    probability: readingAt(readings, tempoBpm)?.probability ?? 0,
  };
}
