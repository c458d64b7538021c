import { applyEdit, EditError, type Edit } from './edit';
import { audibleTracks, emptyProject, projectEndBeat, type Clip, type Project, type Track } from './tree';
import { createRandom } from '../synth/random';
import { plainClip, plainTrack } from '../../test/generators/track';

const clip = (id: string, startBeat = 0): Clip => plainClip({ id, startBeat });
const track = (id: string, clips: Clip[] = []): Track => plainTrack({ id, name: id, clips });
const start: Project = {
  ...emptyProject('Engine Room', 124, { tonic: 2, mode: 'minor' }),
  tracks: [track('a', [clip('1'), clip('2', 16)]), track('b')],
};

const edits: Edit[] = [
  { kind: 'set-project', changes: { tempoBpm: 88, key: null, name: 'Slow' } },
  { kind: 'add-track', track: track('c', [clip('9')]), index: 1 },
  { kind: 'remove-track', trackId: 'a' },
  { kind: 'set-track', trackId: 'b', changes: { gainDb: -2, muted: true } },
  { kind: 'add-clip', trackId: 'b', clip: clip('3') },
  { kind: 'remove-clip', clipId: '2' },
  { kind: 'set-clip', clipId: '1', trackId: 'b', changes: { startBeat: 8 } },
  { kind: 'add-section', section: { kind: 'section', id: 's', name: 'Verse', startBeat: 0, lengthBeats: 32 } },
  {
    kind: 'set-chords',
    chords: [
      { startBeat: 4, symbol: 'G' },
      { startBeat: 0, symbol: 'Dm' },
    ],
  },
  {
    kind: 'batch',
    edits: [
      { kind: 'add-track', track: track('d'), index: 2 },
      { kind: 'add-clip', trackId: 'd', clip: clip('4') },
    ],
  },
];

/** Clips and tracks without regard to the order of clips in a track, which has no meaning. */
const normal = (project: Project) => ({
  ...project,
  tracks: project.tracks.map((each) => ({ ...each, clips: [...each.clips].sort((a, b) => a.id.localeCompare(b.id)) })),
});

describe('edits', () => {
  test.each(edits.map((edit) => [edit.kind, edit] as const))('%s is taken back by its inverse and leaves the original alone', (_, edit) => {
    const before = JSON.stringify(start);
    const { project, inverse } = applyEdit(start, edit);
    expect(project).not.toEqual(start);
    expect(normal(applyEdit(project, inverse).project)).toEqual(normal(start));
    expect(JSON.stringify(start)).toBe(before);
  });
  test('200 random edits and all their inverses come home', () => {
    const random = createRandom(5);
    let project = start;
    const undo: Edit[] = [];
    for (let i = 0; i < 200; i++) {
      try {
        const step = applyEdit(project, edits[Math.floor(random() * edits.length)]);
        project = step.project;
        undo.unshift(step.inverse);
      } catch (error) {
        expect(error).toBeInstanceOf(EditError);
      }
    }
    expect(undo.length).toBeGreaterThan(20);
    for (const edit of undo) project = applyEdit(project, edit).project;
    expect(normal(project)).toEqual(normal(start));
  });
  test.each<[string, Edit]>([
    ['a tempo of 0', { kind: 'set-project', changes: { tempoBpm: 0 } }],
    ['NaN', { kind: 'set-project', changes: { tempoBpm: NaN } }],
    ['an unknown clip', { kind: 'remove-clip', clipId: 'x' }],
    ['a clip before bar 1', { kind: 'set-clip', clipId: '1', trackId: 'a', changes: { startBeat: -1 } }],
    ['a second track of the same id', { kind: 'add-track', track: track('a'), index: 0 }],
    ['an empty name', { kind: 'set-track', trackId: 'a', changes: { name: ' ' } }],
  ])('%s is refused', (_, edit) => expect(() => applyEdit(start, edit)).toThrow(EditError));
  test('a failed batch changes nothing', () => {
    expect(() =>
      applyEdit(start, {
        kind: 'batch',
        edits: [
          { kind: 'remove-clip', clipId: '1' },
          { kind: 'remove-clip', clipId: '1' },
        ],
      }),
    ).toThrow(EditError);
    expect(start.tracks[0].clips).toHaveLength(2);
  });
  test('mute, solo and the end', () => {
    expect(audibleTracks({ ...start, tracks: [{ ...track('a'), soloed: true }, track('b')] }).map((each) => each.id)).toEqual(['a']);
    expect(audibleTracks({ ...start, tracks: [{ ...track('a'), muted: true, soloed: true }, track('b')] })).toHaveLength(0);
    expect(projectEndBeat(start)).toBe(32);
  });
});

test.each([
  ['an engine that is not there', { stretchMode: 'magic' as never }],
  ['five times as fast', { speedRatio: 5 }],
  ['a character beyond an octave', { formantSemitones: 13 }],
  ['half a bar', { firstBars: 0.5 }],
  ['more than all of the grid', { gridStrength: 1.2 }],
])('a clip with %s is refused in words', (_, overrides) =>
  expect(() => applyEdit(start, { kind: 'set-clip', clipId: '1', trackId: 'a', changes: { overrides } })).toThrow(EditError),
);
test('what is done to a clip is taken back by undo', () => {
  const { project, inverse } = applyEdit(start, {
    kind: 'set-clip',
    clipId: '1',
    trackId: 'a',
    changes: { overrides: { stretchMode: 'voice', reverse: true } },
  });
  expect(project.tracks[0].clips[0].overrides).toEqual({ stretchMode: 'voice', reverse: true });
  // As it comes back over the line.
  const sent = JSON.parse(JSON.stringify(inverse)) as Edit;
  expect(applyEdit(project, sent).project.tracks[0].clips[0].overrides).toEqual({});
});
