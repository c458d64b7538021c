import { parseSmf, type Note } from '../formats/smf/parse';
import { writeSmf, type MidiDraft } from '../formats/smf/write';
import { parseKey } from '../theory/key';
import { analyseNotes } from './analyse-notes';
import { chooseFacts } from './evidence/choose';

const note = (pitch: number, startBeat: number, changes: Partial<Note> = {}): Note => ({
  pitch,
  startBeat,
  lengthBeats: 0.9,
  velocity: 90,
  channel: 0,
  ...changes,
});
const heard = (draft: MidiDraft, path = '') => {
  const analysis = analyseNotes(parseSmf(writeSmf(draft)), path),
    { measures } = analysis;
  return { ...analysis, facts: chooseFacts(analysis.evidence, { ...measures, readings: measures.detail?.readings }) };
};
const scale = [60, 62, 64, 65, 67, 69, 71, 72].map((pitch, k) => note(pitch, k));

test('a file without a tempo says so, plays at 120 (RP-001), and believes its name', () => {
  const { facts, evidence } = heard({ notes: scale, lengthBeats: 8 });
  expect(facts.tempoBpm).toBeCloseTo(120, 6);
  expect(evidence.find(({ attribute }) => attribute === 'tempo')?.reason).toMatch(/no tempo in the file/);
  expect(heard({ notes: scale, lengthBeats: 8 }, 'Stairs 92 bpm.mid').facts.tempoBpm).toBeCloseTo(92, 6);
});
test('a tempo event outweighs a name', () =>
  expect(heard({ notes: scale, lengthBeats: 8, tempoBpm: 100 }, 'Stairs 92 bpm.mid').facts.tempoBpm).toBeCloseTo(100, 3));
test.each([
  [8, 2],
  [7.2, 2],
  [8.05, 2],
  [9, 3],
  [0.5, 1],
])('notes that end at beat %d fill %d bars of 4/4', (last, bars) => {
  const notes = [note(60, 0, { lengthBeats: 0.25 }), note(64, last - 0.25, { lengthBeats: 0.25 })];
  expect(heard({ notes, lengthBeats: last, tempoBpm: 120 }).facts).toMatchObject({ bars, beats: bars * 4 });
});
test('three quarters make a bar of 3/4', () =>
  expect(heard({ notes: scale, lengthBeats: 9, tempoBpm: 120, meter: '3/4' }).facts).toMatchObject({ bars: 3, beats: 9, meter: '3/4' }));
test('one note is a one-shot, and has no tempo', () =>
  expect(heard({ notes: [note(60, 0)], lengthBeats: 1, tempoBpm: 120 }).facts).toMatchObject({ kind: 'one-shot', tempoBpm: null }));
test('notes of the drum channel are a kit without a key', () => {
  const { facts, measures } = heard({ notes: [36, 38, 42, 42].map((pitch, k) => note(pitch, k, { channel: 9 })), lengthBeats: 4 });
  expect(facts).toMatchObject({ family: 'drums', instrument: 'kit', key: null, pitched: false });
  expect(measures.chroma.every((weight) => weight === 0)).toBe(true);
});
test('a key event is believed, one that says C major less: that is what writers who know nothing write', () => {
  const minor = [57, 60, 64, 57, 62, 65, 69, 57].map((pitch, k) => note(pitch, k));
  expect(heard({ notes: minor, lengthBeats: 8, keySignature: { sharps: 0, minor: true } }).facts.key).toEqual(parseKey('Am'));
  const sure = (draft: MidiDraft) => heard(draft).evidence.find(({ source, attribute }) => source === 'tag' && attribute === 'key');
  expect(sure({ notes: minor, lengthBeats: 8, keySignature: { sharps: 0, minor: false } })?.candidates[0].probability).toBe(0.5);
  expect(sure({ notes: minor, lengthBeats: 8, keySignature: { sharps: 3, minor: false } })?.candidates[0]).toEqual({
    value: parseKey('A'),
    probability: 0.9,
  });
});
test.each([
  [0, 'piano'],
  [19, 'organ'],
  [33, 'electric-bass'],
  [48, 'strings'],
  [61, 'brass'],
  [73, 'flute'],
  [81, 'synth-lead'],
  [88, 'synth-pad'],
])('program %d of General MIDI is a hint of %s (RP-003)', (program, instrument) => {
  const { evidence } = heard({ notes: scale, lengthBeats: 8, program });
  expect(evidence.find(({ attribute }) => attribute === 'instrument')?.candidates[0].value).toBe(instrument);
});
test('of what is written chords, bars and hits are told without doubt', () => {
  const chord = (pitches: number[], startBeat: number) => pitches.map((pitch) => note(pitch, startBeat, { lengthBeats: 4 })),
    { measures } = heard({
      notes: [...chord([57, 60, 64], 0), ...chord([53, 57, 60], 4), ...chord([48, 52, 55], 8), ...chord([55, 59, 62], 12)],
      lengthBeats: 16,
      tempoBpm: 120,
    }),
    bars = measures.detail?.bars ?? [];
  expect(bars.map(({ chord: triad }) => triad && [triad.root, triad.minor])).toEqual([
    [9, true],
    [5, false],
    [0, false],
    [7, false],
  ]);
  expect(measures).toMatchObject({ lengthSeconds: 8, loudnessLufs: null, likeness: null, onsetFrames: [], faintFrames: [] });
  expect([...measures.chroma].reduce((a, b) => a + b, 0)).toBeCloseTo(1, 6);
});

test('a meter that is written is told, whatever it is, and accents are counted in its own bars', () => {
  const notes = Array.from({ length: 4 }, (_, bar) => note(36, bar * 5, { channel: 9 })),
    { facts, measures } = heard({ notes, lengthBeats: 20, tempoBpm: 120, meter: '5/4' });
  expect(facts).toMatchObject({ meter: '5/4', beats: 20, bars: 4 });
  expect(measures.detail?.groove?.accents[0]).toHaveLength(20);
});
