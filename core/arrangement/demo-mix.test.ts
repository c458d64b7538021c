import { parseKey } from '../theory/key';
import type { Family } from '../theory/instruments';
import { arrangeDemo, demoBars, type DemoCandidate } from './demo-mix';
import { keyShift } from './fit-request';

let nextId = 1;
const candidate = (family: Family, tempoBpm: number | null, key: string | null, changes: Partial<DemoCandidate> = {}): DemoCandidate => ({
  source: {
    loopId: nextId++,
    kind: 'loop',
    media: 'audio',
    soundSha: 'a',
    soundFrames: 352800,
    tempoBpm,
    beats: tempoBpm === null ? null : 16,
    key: key === null ? null : parseKey(key),
    pitched: key !== null,
    family,
    instrument: `${family} ${nextId}`,
    loudnessLufs: -18,
    startFrame: 0,
    barBeats: 4,
  },
  title: `${family} ${tempoBpm}`,
  meter: '4/4',
  tempoConfidence: 1,
  keyConfidence: 1,
  chroma: [],
  ...changes,
});
const notes = (...pitches: number[]) => Array.from({ length: 12 }, (_, pitch) => (pitches.includes(pitch) ? 1 : 0));

test('layers of one tempo and key are taken, and what is far off stays out', () => {
  const mix = arrangeDemo('Pack', [
    candidate('drums', 174, null),
    candidate('drums', 96, null),
    candidate('bass', 96, 'F minor'),
    candidate('keys', 96, 'F minor'),
    candidate('keys', 133, 'B major'),
    candidate('brass', 97, 'F minor'),
  ]);
  expect(mix?.project).toMatchObject({ tempoBpm: 96, key: parseKey('F minor'), meter: '4/4' });
  expect(mix?.layers.map(({ role, title }) => `${role}: ${title}`)).toEqual([
    'chords: keys 96',
    'drums: drums 96',
    'bass: bass 96',
    'lead: brass 97',
  ]);
});
test('layers come in every four bars from bar 1 on, and all of them play to bar 16', () => {
  const mix = arrangeDemo('Pack', [
    candidate('drums', 120, null),
    candidate('percussion', 120, null),
    candidate('bass', 120, 'C'),
    candidate('keys', 120, 'C'),
    candidate('voice', 120, 'C'),
  ]);
  expect(mix?.layers.map(({ startBar }) => startBar)).toEqual([0, 4, 8, 12, 12]);
  for (const { clips } of mix?.project.tracks ?? []) expect(clips[0].startBeat + clips[0].lengthBeats).toBe(demoBars * 4);
});
test('of two basses the one is taken whose notes, as they will sound, the chords have', () => {
  const chords = candidate('keys', 100, 'C', { chroma: notes(0, 4, 7) }),
    // In D, so that a shift of two semitones brings it to C: D, F♯ and A become C, E and G.
    apt = candidate('bass', 100, 'D', { chroma: notes(2, 6, 9), title: 'apt' }),
    strange = candidate('bass', 100, 'C', { chroma: notes(1, 6, 10), title: 'strange' });
  expect(keyShift(apt.source, parseKey('C'))).toBe(-2);
  const mix = arrangeDemo('Pack', [chords, strange, apt]);
  expect(mix?.layers.find(({ role }) => role === 'bass')?.title).toBe('apt');
});
test('loud and soft loops are brought to the level of their layer', () => {
  const loud = candidate('drums', 100, null),
    soft = candidate('keys', 100, 'C'),
    mix = arrangeDemo('Pack', [
      { ...loud, source: { ...loud.source, loudnessLufs: -6 } },
      { ...soft, source: { ...soft.source, loudnessLufs: -30 } },
    ]),
    gain = (name: string) => mix?.project.tracks.find((track) => track.name.startsWith(name))?.clips[0].gainDb as number;
  expect(-6 + gain('drums')).toBeCloseTo(-19);
  expect(-30 + gain('keys')).toBeCloseTo(-22);
});
test('a pack of single sounds has no demo mix, nor one of whole pieces', () => {
  const shot = candidate('drums', null, null),
    mix = candidate('mix', 100, 'C');
  expect(arrangeDemo('Pack', [{ ...shot, source: { ...shot.source, kind: 'one-shot' } }])).toBeNull();
  expect(arrangeDemo('Pack', [{ ...mix, source: { ...mix.source, kind: 'full-mix' } }])).toBeNull();
});
test('a waltz among even loops keeps out of them, and a pack of waltzes is one', () => {
  const waltz = (family: Family) => {
    const made = candidate(family, 150, family === 'drums' ? null : 'G', { meter: '3/4' });
    return { ...made, source: { ...made.source, beats: 12, barBeats: 3 } };
  };
  expect(arrangeDemo('Mixed', [waltz('keys'), candidate('drums', 150, null), candidate('bass', 150, 'G')])?.project.meter).toBe('4/4');
  expect(arrangeDemo('Waltzes', [waltz('keys'), waltz('drums')])?.project.meter).toBe('3/4');
});
test('a pack of percussion alone is a mix of two instruments of it, and bells without a pitch are no chords', () => {
  const shaker = candidate('percussion', 110, null),
    bells = candidate('mallet', 110, null),
    again = candidate('percussion', 110, null),
    mix = arrangeDemo('Pack', [shaker, { ...again, source: { ...again.source, instrument: shaker.source.instrument } }, bells]);
  expect(mix?.layers.map(({ role, loopId }) => [role, loopId])).toEqual([
    ['percussion', shaker.source.loopId],
    ['more-percussion', bells.source.loopId],
  ]);
});
