import fc from 'fast-check';
import { plainClip, plainTrack } from '../../test/generators/track';
import type { Edit } from './edit';
import { putOn, shareProject, takebacksOf, withAgreed, withStep, type SharedProject, type Step } from './shared-project';
import { emptyProject, type Project } from './tree';

const clipOf = (id: string, startBeat = 0) => plainClip({ id, startBeat, lengthBeats: 4 }),
  start: Project = {
    ...emptyProject('Engine Room', 120, { tonic: 2, mode: 'minor' }),
    tracks: ['a', 'b', 'c'].map((id) => ({ ...plainTrack({ name: id }), id, clips: [clipOf(`${id}1`), clipOf(`${id}2`, 8)] })),
    sections: [{ kind: 'section', id: 's', name: 'Main', startBeat: 0, lengthBeats: 16 }],
  };

const trackId = fc.constantFrom('a', 'b', 'c', 'd'),
  clipId = fc.constantFrom('a1', 'a2', 'b1', 'b2', 'c1', 'c2', 'n1', 'n2'),
  one: fc.Arbitrary<Edit> = fc.oneof(
    fc.record({ kind: fc.constant('set-project' as const), changes: fc.record({ tempoBpm: fc.integer({ min: 20, max: 310 }) }) }),
    fc.record({
      kind: fc.constant('set-track' as const),
      trackId,
      changes: fc.record(
        {
          gainDb: fc.integer({ min: -60, max: 12 }),
          pan: fc.constantFrom(-1, 0, 0.5),
          colour: fc.nat(5),
          name: fc.constantFrom('One', 'Two'),
          muted: fc.boolean(),
          soloed: fc.boolean(),
          setAside: fc.boolean(),
        },
        { requiredKeys: [] },
      ),
    }),
    fc.record({ kind: fc.constant('remove-track' as const), trackId }),
    fc.record({
      kind: fc.constant('add-track' as const),
      index: fc.nat(3),
      track: trackId.map((id) => ({ ...plainTrack({ name: id }), id, clips: [] })),
    }),
    fc.record({ kind: fc.constant('add-clip' as const), trackId, clip: fc.tuple(clipId, fc.nat(32)).map(([id, at]) => clipOf(id, at)) }),
    fc.record({ kind: fc.constant('remove-clip' as const), clipId }),
    fc.record({
      kind: fc.constant('set-clip' as const),
      clipId,
      trackId,
      changes: fc.record(
        {
          startBeat: fc.nat(64),
          lengthBeats: fc.integer({ min: 1, max: 16 }),
          offsetBeats: fc.nat(8),
          gainDb: fc.integer({ min: -70, max: 30 }),
          fadeInBeats: fc.nat(4),
          fadeOutBeats: fc.nat(4),
          muted: fc.boolean(),
          landsAfterBeats: fc.constantFrom(null, 0, 3),
          shiftSemitones: fc.integer({ min: -26, max: 24 }),
          followTempo: fc.boolean(),
          followKey: fc.boolean(),
          overrides: fc.constantFrom({}, { reverse: true }, { speedRatio: 2, stretchMode: 'voice' as const }),
          content: fc.nat(3).map((loopId) => ({ kind: 'loop' as const, loopId })),
        },
        { requiredKeys: [] },
      ),
    }),
    fc.record({
      kind: fc.constant('set-section' as const),
      sectionId: fc.constant('s'),
      changes: fc.record({ lengthBeats: fc.integer({ min: 1, max: 64 }) }),
    }),
    fc.record({ kind: fc.constant('remove-section' as const), sectionId: fc.constantFrom('s', 'n') }),
    fc.record({
      kind: fc.constant('add-section' as const),
      section: fc.nat(32).map((startBeat) => ({ kind: 'section' as const, id: 'n', name: 'New', startBeat, lengthBeats: 8 })),
    }),
    fc.record({
      kind: fc.constant('set-chords' as const),
      chords: fc.array(fc.record({ startBeat: fc.nat(16), symbol: fc.constantFrom('C', 'Dm7') }), { maxLength: 3 }),
    }),
  ),
  edit: fc.Arbitrary<Edit> = fc.oneof(
    { weight: 4, arbitrary: one },
    { weight: 1, arbitrary: fc.array(one, { minLength: 1, maxLength: 3 }).map((edits) => ({ kind: 'batch' as const, edits })) },
  );

/** What the server keeps: one order for all. */
class Log {
  tree = start;
  steps: Step[] = [];
  take(revision: number, steps: readonly Step[]) {
    const { project, taken, refused } = putOn(this.tree, steps);
    this.tree = project;
    this.steps.push(...taken.map(({ inverse: _, ...step }) => step));
    return { revision: this.steps.length, agreed: this.steps.slice(revision), refused };
  }
}

/** As it comes over the line. */
const sent = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

test('each edit that is taken back leaves the same bytes: 10,000 of all kinds, as they come over the line', () => {
  let done = 0;
  fc.assert(
    fc.property(fc.array(edit, { minLength: 10, maxLength: 30 }), (edits) => {
      const { taken } = putOn(
        start,
        edits.map((each, k) => ({ stepId: String(k), edit: sent(each) })),
      );
      let project = putOn(
        start,
        taken.map(({ stepId, edit: each }) => ({ stepId, edit: each })),
      ).project;
      const back = putOn(
        project,
        [...taken].reverse().map(({ stepId, inverse }) => ({ stepId: `u${stepId}`, edit: sent(inverse) })),
      );
      done += edits.length;
      project = back.project;
      expect(back.refused).toEqual([]);
      expect(JSON.stringify(byId(project))).toBe(JSON.stringify(byId(start)));
    }),
    { numRuns: 700 },
  );
  expect(done).toBeGreaterThan(10_000);
});
/** The order of clips within a track says nothing. */
const byId = (project: Project): Project => ({
  ...project,
  tracks: project.tracks.map((track) => ({ ...track, clips: [...track.clips].sort((a, b) => (a.id < b.id ? -1 : 1)) })),
});

test.each([
  ['many short ones', 120, 300],
  ['a long one, of a thousand edits and more each', 4400, 2],
])('two editors who edit at the same time, and hear of each other whenever, end with the same tree: %s', (_, mostActs, numRuns) => {
  type Act = { who: 0 | 1; does: 'edit' | 'send' | 'hear'; edit: Edit };
  const act: fc.Arbitrary<Act> = fc.record({
    who: fc.constantFrom(0 as const, 1 as const),
    does: fc.constantFrom('edit' as const, 'edit' as const, 'send' as const, 'hear' as const),
    edit,
  });
  fc.assert(
    fc.property(fc.array(act, { minLength: mostActs > 1000 ? mostActs : 0, maxLength: mostActs }), (acts) => {
      const log = new Log(),
        editors: SharedProject[] = [shareProject(start, 0), shareProject(start, 0)];
      let names = 0;
      const hear = (who: number, sends: boolean) => {
        const own = editors[who],
          { revision, agreed, refused } = log.take(own.revision, sends ? own.own : []);
        editors[who] = withAgreed(own, revision, agreed, refused).shared;
      };
      for (const { who, does, edit: each } of acts)
        if (does === 'edit')
          try {
            editors[who] = withStep(editors[who], { stepId: `${who}-${names++}`, edit: each }).shared;
          } catch {
            // It does not fit what this one sees: nothing is done.
          }
        else hear(who, does === 'send');
      for (const who of [0, 1, 0]) hear(who, true);
      expect(editors[0].own).toEqual([]);
      expect(editors[1].own).toEqual([]);
      expect(editors[0].shown).toEqual(log.tree);
      expect(editors[1].shown).toEqual(log.tree);
      expect(editors[0].base).toEqual(log.tree);
    }),
    { numRuns },
  );
});

test('what can be taken back and done again is told by the steps alone', () => {
  const inverse: Edit = { kind: 'set-project', changes: {} },
    step = (stepId: string, undoes?: string) => ({ stepId, edit: inverse, inverse, ...(undoes ? { undoes } : {}) }),
    names = (steps: ReturnType<typeof step>[]) => {
      const { undo, redo } = takebacksOf(steps);
      return [undo.map(({ stepId }) => stepId), redo.map(({ stepId }) => stepId)];
    };
  expect(names([step('a'), step('b')])).toEqual([['a', 'b'], []]);
  expect(names([step('a'), step('b'), step('c', 'b')])).toEqual([['a'], ['c']]);
  expect(names([step('a'), step('b'), step('c', 'b'), step('d', 'c')])).toEqual([['a', 'd'], []]);
  expect(names([step('a'), step('b'), step('c', 'b'), step('e')])).toEqual([['a', 'e'], []]);
  // The step that it takes back was longer ago than is read.
  expect(names([step('a'), step('c', 'long ago')])).toEqual([['a'], []]);
});
