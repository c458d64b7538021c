import { createHash } from 'node:crypto';
import { analyseAudio } from '../core/analysis/analyse-audio';
import { chooseFacts } from '../core/analysis/evidence/choose';
import { integratedLoudness, samplePeakDbfs } from '../core/analysis/loudness/loudness';
import { detectOnsets } from '../core/analysis/onsets/onsets';
import { noTags } from '../core/formats/tags/embedded';
import { parseSmf } from '../core/formats/smf/parse';
import { instrumentById } from '../core/theory/instruments';
import { spectrogram, toMono } from '../core/dsp/spectrogram';
import { decodeFile } from '../server/jobs/pool/decode';
import type { FileSpec } from './catalogue';
import { encodeAudio } from './encode/encode';
import { demoPacks } from './packs';
import { composeNotes, renderAudio, renderMidi } from './render';

const files = demoPacks().flatMap((pack) => pack.files);
const find = (ending: string): FileSpec => {
  const found = files.find((file) => file.path.endsWith(ending));
  if (!found) throw new Error(ending);
  return found;
};
/** The shortest of each family, and what plays once. */
const each = [
  ...new Map(
    files
      .filter((file) => file.format !== 'midi' && file.player !== 'mix')
      .sort((a, b) => (b.truth.bars ?? 0) - (a.truth.bars ?? 0))
      .map((file) => [`${instrumentById(file.truth.instrument)?.family} ${file.truth.kind}`, file]),
  ).entries(),
];

test('enough of everything: 140 audio loops, 30 one-shots and phrases, 20 note loops, 6 to 8 packs', () => {
  const audio = files.filter((file) => file.format !== 'midi');
  expect(audio.filter((file) => file.truth.kind === 'loop').length).toBeGreaterThanOrEqual(140);
  expect(audio.filter((file) => file.truth.kind === 'one-shot' || file.truth.kind === 'phrase').length).toBeGreaterThanOrEqual(30);
  expect(files.filter((file) => file.format === 'midi').length).toBeGreaterThanOrEqual(20);
  expect(demoPacks().length).toBeGreaterThanOrEqual(6);
  expect(demoPacks().length).toBeLessThanOrEqual(8);
  expect(new Set(demoPacks().flatMap((pack) => pack.files.map((file) => `${pack.slug}/${file.path}`))).size).toBe(files.length);
});

test.each(each)('%s: no clipping, no DC, a level one can use', (_, spec) => {
  const { channels, sampleRateHz } = renderAudio(spec);
  const peak = samplePeakDbfs(channels) ?? 0,
    loudness = integratedLoudness(channels, sampleRateHz) ?? -99;
  expect(peak).toBeLessThan(-0.9);
  expect(peak).toBeGreaterThan(-36);
  expect(loudness).toBeGreaterThan(spec.trouble.peakDbfs ? -60 : -45);
  expect(loudness).toBeLessThan(-6);
  for (const plane of channels) {
    let sum = 0;
    for (const sample of plane) {
      if (!Number.isFinite(sample)) throw new Error('not a number');
      sum += sample;
    }
    expect(Math.abs(sum / plane.length)).toBeLessThan(0.002);
  }
});

test('the same bytes each time, in every format, whatever was made before; and no two files alike', async () => {
  const hash = async (spec: FileSpec) =>
      createHash('sha256')
        .update(spec.format === 'midi' ? renderMidi(spec) : await encodeAudio(renderAudio(spec), spec.format, spec.path, false))
        .digest('hex'),
    shortest = (['wav16', 'wav24', 'wav32f', 'aiff24', 'flac', 'ogg', 'midi'] as const).map((format) =>
      files.filter((file) => file.format === format).reduce((a, b) => ((a.truth.bars ?? 0) <= (b.truth.bars ?? 0) ? a : b)),
    ),
    hashes = new Map<FileSpec, string>();
  for (const spec of shortest) hashes.set(spec, await hash(spec));
  // In the other order: a random number drawn for one file that another one sees would show.
  for (const spec of [...shortest].reverse()) expect(await hash(spec)).toBe(hashes.get(spec));
  expect(new Set(hashes.values()).size).toBe(shortest.length);
});

test('onsets where the truth says: kicks of a kick loop within 4 ms', () => {
  const spec = find('TRK_Piston_124_Kick.wav'),
    { channels, sampleRateHz } = renderAudio(spec);
  const wanted = composeNotes(spec).map((note) => (note.startBeat * 60) / 124),
    found = detectOnsets(channels, sampleRateHz).map((frame) => frame / sampleRateHz);
  for (const time of wanted) expect(Math.min(...found.map((each) => Math.abs(each - time)))).toBeLessThan(0.004);
  expect(found.length).toBe(wanted.length);
});

test('a groove is played, not typed: ghost notes, accents, swing, loose times', () => {
  const notes = composeNotes(find('TRK_LanternWalk_96_A1.wav')),
    velocities = notes.map((note) => note.velocity);
  expect(Math.min(...velocities)).toBeLessThan(55);
  expect(Math.max(...velocities)).toBeGreaterThan(108);
  const off = notes
    .filter((note) => {
      const step = Math.round(note.startBeat * 4);
      return step % 2 === 1;
    })
    .map((note) => note.startBeat * 4 - Math.round(note.startBeat * 4 - 0.18));
  expect(off.reduce((a, b) => a + b, 0) / off.length).toBeGreaterThan(0.1);
});

test('spectra as expected: sub below bass below piano below hats', () => {
  const centroid = (ending: string) => {
    const { channels, sampleRateHz } = renderAudio(find(ending)),
      { frameCount, bins, magnitudes, size } = spectrogram(toMono(channels), 2048, 1024);
    let weighted = 0,
      all = 0;
    for (let i = 0; i < frameCount * bins; i++) {
      all += magnitudes[i] ** 2;
      weighted += (magnitudes[i] ** 2 * (i % bins) * sampleRateHz) / size;
    }
    return weighted / all;
  };
  const order = [
    'LLB_SubBass_04_96bpm_Fm.aiff',
    'LLB_BassFingered_01_96bpm_Fm.aiff',
    'Piano Chords 01 - F minor - 96 bpm.flac',
    'Shaker 96 A.wav',
  ].map(centroid);
  expect([...order].sort((a, b) => a - b)).toEqual(order);
});

test('bass lines follow the chords: on each chord’s first beat its root', () => {
  const spec = find('LLB_UprightBass_02_96bpm_Fm.aiff'),
    notes = composeNotes(spec);
  expect([0, 4, 8, 12].map((beat) => (notes.find((note) => Math.abs(note.startBeat - beat) < 0.1)?.pitch ?? -1) % 12)).toEqual([
    5, 1, 8, 3,
  ]);
});

test('what the generator knows, the detectors find: tempo within 0.5 %, bars, key, instrument family of named files', () => {
  for (const ending of [
    'TRK_Piston_124_A1.wav',
    'LLB_BassFingered_01_96bpm_Fm.aiff',
    'Electric Piano 02 - D dorian - 124 bpm.flac',
    'Shaker 96 A.wav',
    'DrumLoop 07.wav',
  ]) {
    const spec = find(ending),
      { evidence, measures } = analyseAudio(renderAudio(spec), spec.path, noTags),
      facts = chooseFacts(evidence, measures);
    expect([ending, Math.abs((facts.tempoBpm ?? 0) / (spec.truth.tempoBpm ?? 1) - 1) < 0.005, facts.bars, facts.key]).toEqual([
      ending,
      true,
      spec.truth.bars,
      spec.truth.key,
    ]);
  }
});

test('every format decodes to the length that was encoded; a note file reads back', async () => {
  for (const format of ['wav24', 'aiff16', 'flac', 'ogg'] as const) {
    const spec = find('TRK Hit 01 Kick Deep.wav'),
      pcm = renderAudio(spec),
      decoded = await decodeFile(await encodeAudio(pcm, format, spec.path, true));
    expect(decoded.pcm.channels[0].length).toBe(pcm.channels[0].length);
    expect(decoded.pcm.sampleRateHz).toBe(pcm.sampleRateHz);
  }
  const midi = parseSmf(renderMidi(files.find((file) => file.format === 'midi') as FileSpec));
  expect(midi.tempoBpm).toBeGreaterThan(60);
  expect(midi.notes.length).toBeGreaterThan(8);
});
