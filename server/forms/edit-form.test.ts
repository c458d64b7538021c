import type { Edit } from '../../core/arrangement/edit';
import { plainClip, plainTrack } from '../../test/generators/track';
import { readSteps } from './edit-form';

const clip = plainClip({ id: 'c-1', loopId: 3 }),
  section = { kind: 'section' as const, id: 's', name: 'Verse', startBeat: 0, lengthBeats: 16 };
const each: readonly Edit[] = [
  { kind: 'set-project', changes: { name: 'A', tempoBpm: 100, key: null, meter: '3/4', masterGainDb: -1 } },
  { kind: 'set-project', changes: { key: { tonic: 2, mode: 'minor' } } },
  { kind: 'add-track', index: 0, track: plainTrack({ clips: [{ ...clip, overrides: { reverse: true, stretchMode: null } }] }) },
  { kind: 'remove-track', trackId: 't' },
  { kind: 'set-track', trackId: 't', changes: { muted: true } },
  { kind: 'add-clip', trackId: 't', clip },
  { kind: 'remove-clip', clipId: 'c-1' },
  { kind: 'set-clip', clipId: 'c-1', trackId: 't', changes: { startBeat: 4, overrides: { speedRatio: 2 } } },
  { kind: 'set-clip', clipId: 'c-1', trackId: 't', changes: {} },
  { kind: 'add-section', section },
  { kind: 'remove-section', sectionId: 's' },
  { kind: 'set-section', sectionId: 's', changes: { name: 'Chorus' } },
  { kind: 'set-chords', chords: [{ startBeat: 0, symbol: 'Dm/G' }] },
  { kind: 'batch', edits: [{ kind: 'remove-clip', clipId: 'c-1' }] },
];

test.each(each.map((edit) => [edit.kind, edit] as const))('%s passes as it is', async (_, edit) => {
  const steps = [{ stepId: 'a-1', edit }];
  expect(await readSteps({ revision: 3, steps })).toEqual({ ok: true, revision: 3, steps });
  // Without names they come as one step, all or nothing.
  if (edit.kind !== 'batch')
    expect(await readSteps({ revision: 3, edits: [edit] })).toMatchObject({
      ok: true,
      revision: 3,
      steps: [{ edit: { kind: 'batch', edits: [edit] } }],
    });
});

test.each<[string, unknown]>([
  ['another project in a track', { kind: 'add-track', index: 0, track: { ...plainTrack(), projectId: 2 } }],
  ['another project in a change', { kind: 'set-track', trackId: 't', changes: { projectId: 2 } }],
  ['an id in a change', { kind: 'set-clip', clipId: 'c', trackId: 't', changes: { id: 'd' } }],
  ['a field that an edit does not have', { kind: 'remove-track', trackId: 't', force: true }],
  ['an id of another shape', { kind: 'remove-track', trackId: "t'; drop" }],
  ['an id that is none', { kind: 'remove-track', trackId: 7 }],
  ['a number as text', { kind: 'set-project', changes: { tempoBpm: '120' } }],
  ['a loop beyond all numbers', { kind: 'add-clip', trackId: 't', clip: { ...clip, loopId: 1e12 } }],
  ['no number', { kind: 'set-project', changes: { tempoBpm: null } }],
  ['a stretch mode there is not', { kind: 'set-clip', clipId: 'c', trackId: 't', changes: { overrides: { stretchMode: 'magic' } } }],
  ['an unknown kind', { kind: 'fly' }],
  ['what every object has', { kind: 'constructor' }],
  ['a batch in a batch', { kind: 'batch', edits: [{ kind: 'batch', edits: [] }] }],
  ['nothing', null],
])('%s does not', async (_, edit) => {
  expect(await readSteps({ revision: 3, steps: [{ stepId: 'a', edit }] })).toMatchObject({
    ok: false,
    message: expect.stringMatching(/nothing was changed/),
  });
});
test('what is no chord is named', async () =>
  expect(await readSteps({ revision: 0, edits: [{ kind: 'set-chords', chords: [{ startBeat: 0, symbol: 'Hx' }] }] })).toEqual({
    ok: false,
    message: '“Hx” is no chord.',
  }));
test.each([
  null,
  3,
  {},
  { revision: -1, edits: [] },
  { revision: 0.5, edits: [] },
  { revision: 0 },
  { revision: 0, edits: [], more: 1 },
  { revision: 0, steps: [{ stepId: '', edit: each[0] }] },
  { revision: 0, steps: [{ stepId: 'a b', edit: each[0] }] },
])('%j is no request', async (body) => expect((await readSteps(body)).ok).toBe(false));

describe('harmony and notes', () => {
  const clip = {
      kind: 'clip',
      id: 'c',
      content: { kind: 'notes', patternId: 'p' },
      startBeat: 0,
      lengthBeats: 4,
      offsetBeats: 0,
      gainDb: 0,
      fadeInBeats: 0,
      fadeOutBeats: 0,
      muted: false,
      landsAfterBeats: null,
      shiftSemitones: 0,
      followTempo: true,
      followKey: true,
      chordWay: null,
      shiftMarks: null,
      overrides: { instrument: 'piano' },
    },
    pattern = {
      kind: 'pattern',
      id: 'p',
      name: 'P',
      lengthBeats: 4,
      notes: [{ id: 'n', startBeat: 0, lengthBeats: 1, pitch: 60, velocity: 100 }],
      isDrums: false,
      instrument: null,
      key: { tonic: 2, mode: 'minor', church: 'dorian' },
      chords: [],
      fromLoopId: null,
    },
    read = async (edit: object) => (await readSteps({ revision: 0, steps: [{ stepId: 's', edit }] })).ok;
  test.each([
    [{ kind: 'add-pattern', pattern }],
    [{ kind: 'add-pattern', pattern: { ...pattern, isDrums: true, key: null } }],
    [{ kind: 'add-clip', trackId: 't', clip }],
    [{ kind: 'set-clip', trackId: 't', clipId: 'c', changes: { chordWay: 'roots', shiftMarks: [{ atBeat: 0, semitones: -8 }] } }],
    [{ kind: 'set-clip', trackId: 't', clipId: 'c', changes: { content: { kind: 'notes', patternId: 'p' } } }],
    [{ kind: 'set-section', sectionId: 's', changes: { key: { tonic: 4, mode: 'minor' } } }],
    [{ kind: 'set-section', sectionId: 's', changes: { key: null } }],
    [{ kind: 'change-notes', patternId: 'p', gone: ['n'], put: pattern.notes }],
    [{ kind: 'set-pattern', patternId: 'p', changes: { name: 'Q' } }],
    [{ kind: 'set-chords', chords: [{ startBeat: 0, symbol: 'N.C.' }] }],
  ])('%j is read', async (edit) => expect(await read(edit)).toBe(true));
  test.each([
    [{ kind: 'add-clip', trackId: 't', clip: { ...clip, content: { kind: 'sound', file: 'x' } } }],
    [{ kind: 'add-clip', trackId: 't', clip: { ...clip, content: undefined } }],
    [{ kind: 'add-clip', trackId: 't', clip: { ...clip, content: { kind: 'notes', patternId: 'p', loopId: 1 } } }],
    [{ kind: 'add-pattern', pattern: { ...pattern, key: { tonic: 2, mode: 'minor', church: 'blue' } } }],
    [{ kind: 'change-notes', patternId: 'p', gone: [], put: [{ id: 'n', startBeat: 0, lengthBeats: 1, pitch: 60 }] }],
    [{ kind: 'set-clip', trackId: 't', clipId: 'c', changes: { chordWay: 'thirds' } }],
  ])('%j is not', async (edit) => expect(await read(edit)).toBe(false));
});
