import { chord, hits, rateHz } from '../../test/generators/signals';
import { loadTransforms } from '../dsp/real-fft';
import { noTags } from '../formats/tags/embedded';
import { analyseAudio, analyseParts } from './analyse-audio';
import type { Analysis } from './analysis';
import { evidence } from './facts';
import { outdatedParts, partVersions, type Part } from './parts';
import { isSaidBy } from './said-by';
import type { Reading } from './tempo/read-rhythm';

const some = (...wanted: Part[]): ReadonlySet<Part> => new Set(wanted);
/** Four held chords of two seconds with a click on each beat: tuned, with bars at 120. */
const sound = (() => {
  const held = [
      [57, 60, 64],
      [53, 57, 60],
      [48, 52, 55],
      [55, 59, 62],
    ].flatMap((notes) => [...chord(notes, 2)]),
    clicks = hits(
      Array.from({ length: 16 }, (_, k) => k * 0.5),
      8,
    );
  return Float32Array.from(held, (value, i) => 0.7 * value + 0.3 * clicks[i]);
})();
const file = { pcm: { sampleRateHz: rateHz, channels: [sound] }, path: 'Pack/House Held 120 bpm Am.wav', tags: noTags, whole: null };
let full: Analysis, readings: readonly Reading[];
beforeAll(async () => {
  await loadTransforms();
  full = analyseAudio(file.pcm, file.path, noTags);
  readings = full.measures.detail?.readings ?? [];
});

test.each<Part>(['names', 'labels', 'levels', 'hits', 'colour', 'fingerprint', 'instrument', 'rhythm', 'kind', 'key', 'bars'])(
  'after a change of %s, hearing its parts anew gives what hearing all gives',
  (changed) => {
    const wanted = outdatedParts(partVersions, { ...partVersions, [changed]: 99 }),
      {
        evidence: said,
        measures,
        detail,
      } = analyseParts(file, wanted, {
        evidence: full.evidence.filter((each) => !isSaidBy(wanted, each)),
        readings: wanted.has('rhythm') ? null : readings,
      });
    const order = (list: readonly { attribute: string; source: string }[]) =>
      [...list].sort((a, b) => (a.attribute + a.source).localeCompare(b.attribute + b.source));
    expect(order(said)).toEqual(order(full.evidence.filter((each) => isSaidBy(wanted, each))));
    expect(full.measures).toMatchObject(measures);
    expect(full.measures.detail).toMatchObject(detail ?? {});
    expect(Object.keys({ ...measures, ...detail }).length + said.length).toBeGreaterThan(0);
  },
);
test('only what is wanted comes back', () => {
  const { evidence: said, measures, detail } = analyseParts(file, some('levels'), { evidence: full.evidence, readings });
  expect(said).toEqual([]);
  expect(Object.keys(measures).sort()).toEqual(['loudnessLufs', 'overview', 'peakDbfs']);
  expect(Object.keys(detail ?? {})).toEqual(['levels']);
});
test('bars are told by what a person says, as when all is heard', () => {
  const said = [evidence('tempo', 'person', [{ value: 60, probability: 1 }], '')],
    given = { evidence: [...full.evidence, ...said], readings };
  expect(full.measures.detail?.bars).toHaveLength(4);
  expect(analyseParts(file, some('bars'), given).detail?.bars).toHaveLength(2);
  expect(analyseAudio(file.pcm, file.path, noTags, null, said).measures.detail?.bars).toHaveLength(2);
});
test('of silence all is told again, and nothing is left of what was heard before', () => {
  const silent = { ...file, pcm: { sampleRateHz: rateHz, channels: [new Float32Array(rateHz)] } },
    { detail, evidence: said } = analyseParts(silent, some('key', 'bars'), { evidence: [], readings });
  expect(detail).toBeNull();
  expect(said.map(({ attribute }) => attribute)).toEqual(['key']);
});
