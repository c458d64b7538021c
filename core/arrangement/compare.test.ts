import fc from 'fast-check';
import { bar, newId, project } from '../../test/generators/piece';
import { plainClip, plainTrack } from '../../test/generators/track';
import * as clips from './acts/clips';
import * as sections from './acts/sections';
import * as shaping from './acts/shaping';
import { clipsApart, differencesInWords, editBetween } from './compare';
import { applyEdit, EditError, type Edit } from './edit';
import { emptyPattern } from './pattern/make-pattern';
import { emptyProject } from './tree';
import type { Project } from './tree';

const after = (from: Project, edit: Edit | null): Project => (edit ? applyEdit(from, edit).project : from),
  ordered = (each: Project): Project => ({
    ...each,
    tracks: each.tracks.map((track) => ({ ...track, clips: [...track.clips].sort((x, y) => (x.id < y.id ? -1 : 1)) })),
  });

const some: readonly ((from: Project) => Edit | null)[] = [
  (from) => clips.cutAtBars(from, ['a1', 'b1'], bar, newId),
  (from) => clips.moveClips(from, ['b1', 'b2'], 4, 1),
  (from) => clips.removeClips(from, ['a1']),
  (from) => clips.duplicateTrack(from, 'b', newId),
  (from) => clips.moveTrackTo(from, 'a', 2),
  (from) => clips.moveTrackTo(from, 'c', 0),
  (from) => ({ kind: 'remove-track', trackId: from.tracks[0]?.id ?? '' }),
  (from) => clips.changeTracks(from, ['b'], () => ({ gainDb: -6, setAside: true, name: 'Low end' })),
  (from) => shaping.toggleMuted(from, ['b1']),
  (from) => shaping.setFades(from, ['b1'], { fadeOutBeats: 2 }),
  (from) => shaping.playInstead(from, ['b2'], { kind: 'loop', loopId: 77 }),
  (from) => sections.repeatSection(from, 'main', newId),
  (from) => sections.takeOutSection(from, 'intro', true, newId),
  () => ({ kind: 'set-project', changes: { tempoBpm: 99, key: { tonic: 5, mode: 'minor' } } }),
  () => ({ kind: 'set-chords', chords: [{ startBeat: 0, symbol: 'Am' }] }),
];

test('whatever was done between, one step makes the one of the other, both ways; and there are words exactly where they differ', () => {
  fc.assert(
    fc.property(fc.array(fc.constantFrom(...some), { maxLength: 8 }), (acts) => {
      let made = project;
      for (const act of acts)
        try {
          made = after(made, act(made));
        } catch (error) {
          // What no longer fits is left out, as it is when somebody does it.
          if (!(error instanceof EditError)) throw error;
        }
      expect(ordered(after(project, editBetween(project, made)))).toEqual(ordered(made));
      expect(ordered(after(made, editBetween(made, project)))).toEqual(ordered(project));
      const isSame = JSON.stringify(ordered(made)) === JSON.stringify(ordered(project));
      expect(differencesInWords(project, made).length === 0).toBe(isSame);
      expect(editBetween(project, made) === null).toBe(isSame);
    }),
    { numRuns: 300 },
  );
});

test('as it comes from the database, its members in another order, it is the same', () => {
  const shuffled = (value: unknown): unknown =>
      Array.isArray(value)
        ? value.map(shuffled)
        : typeof value === 'object' && value !== null
          ? Object.fromEntries(
              Object.entries(value)
                .map(([name, each]) => [name, shuffled(each)] as const)
                .reverse(),
            )
          : value,
    stored = shuffled(project) as Project;
  expect(Object.keys(stored)).not.toEqual(Object.keys(project));
  expect(differencesInWords(project, stored)).toEqual([]);
  expect(editBetween(project, stored)).toBeNull();
  expect(clipsApart(project, stored).size).toBe(0);
});

test('in words', () => {
  let made = after(project, { kind: 'set-project', changes: { tempoBpm: 124 } });
  made = after(made, { kind: 'add-track', index: 3, track: plainTrack({ id: 'n', name: 'Brass', clips: [plainClip({ id: 'n1' })] }) });
  made = after(
    made,
    clips.changeTracks(made, ['b'], () => ({ gainDb: -3 })),
  );
  made = after(made, clips.moveClips(made, ['b1'], 4, 0));
  made = after(made, { kind: 'set-section', sectionId: 'main', changes: { name: 'Chorus', lengthBeats: 12 } });
  expect(differencesInWords(project, made)).toEqual([
    'Tempo 120 → 124',
    'T: 1 clip placed otherwise, gain 0.0 dB → −3.0 dB',
    'Track new: Brass, 1 clip',
    'Section Main: called “Chorus”, bars 3–6 → bars 3–5',
  ]);
  expect([...clipsApart(project, made)].sort()).toEqual(['b1', 'n1']);
});

describe('patterns and keys of sections', () => {
  const note = (id: string, pitch: number) => ({ id, startBeat: 0, lengthBeats: 1, pitch, velocity: 90 }),
    pattern = emptyPattern({ id: 'p', name: 'Keys', lengthBeats: 4, notes: [note('a', 60), note('b', 62)] }),
    section = { kind: 'section' as const, id: 's', name: 'Main', startBeat: 0, lengthBeats: 16 },
    base = { ...emptyProject('P', 120, null), patterns: [pattern], sections: [section] };
  test.each([
    ['notes', { ...base, patterns: [{ ...pattern, notes: [note('b', 64), note('c', 65)] }] }, 'Pattern Keys: 3 notes otherwise'],
    ['its instrument', { ...base, patterns: [{ ...pattern, instrument: 'organ' }] }, 'Pattern Keys: otherwise'],
    ['one more', { ...base, patterns: [pattern, { ...pattern, id: 'q', name: 'Bass' }] }, 'Pattern new: Bass, 2 notes'],
    ['one less', { ...base, patterns: [] }, 'Pattern gone: Keys'],
    ['a key', { ...base, sections: [{ ...section, key: { tonic: 4, mode: 'minor' as const } }] }, 'Section Main: in E minor'],
  ])('%s: said, made, and taken back', (_, after, words) => {
    expect(differencesInWords(base, after)).toEqual([words]);
    const edit = editBetween(base, after);
    expect(edit && applyEdit(base, edit).project).toEqual(after);
  });
});
