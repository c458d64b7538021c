import fc from 'fast-check';
import { bar, clipsOf, cycle, done, newId, places, project, soundsAll, soundsAt, soundsAtAll } from '../../../test/generators/piece';
import { plainClip, plainTrack } from '../../../test/generators/track';

import { emptyProject, type Project } from '../tree';
import * as acts from './clips';
import * as sections from './sections';

describe('clips', () => {
  test('cut anywhere it sounds as before; joined again it is one', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 130 }), { minLength: 1, maxLength: 6 }), (quarters) => {
        const edit = acts.cutClips(
          project,
          ['a1', 'b1'],
          quarters.map((each) => each / 4),
          newId,
        );
        if (!edit) return;
        const made = done(edit);
        expect(soundsAll(made)).toEqual(soundsAll(project));
        const joined = acts.joinClips(
          made,
          made.tracks.flatMap(({ clips }) => clips.map(({ id }) => id)),
          () => cycle,
        );
        const whole = joined ? done(joined, made) : made;
        expect(soundsAll(whole)).toEqual(soundsAll(project));
        expect(clipsOf(whole)).toHaveLength(1);
      }),
    );
  });
  test('cut at each bar', () => {
    const made = done(acts.cutAtBars(project, ['b1'], bar, newId));
    expect(clipsOf(made, 'b').map(({ startBeat }) => startBeat)).toEqual([4, 8, 12, 20]);
    expect(soundsAll(made)).toEqual(soundsAll(project));
    expect(acts.cutAtBars(done(acts.repeatTo(project, ['b2'], 24)), ['b2'], bar, newId)).toBeNull();
  });
  test('what is different is not joined', () => {
    const changed = done({ kind: 'set-clip', clipId: 'b1', trackId: 'b', changes: { gainDb: -6 } });
    const cut = done(acts.cutClips(changed, ['b1'], [8], newId), changed),
      [first] = clipsOf(cut, 'b'),
      other = done({ kind: 'set-clip', clipId: first.id, trackId: 'b', changes: { gainDb: 0 } }, cut);
    expect(
      acts.joinClips(
        other,
        clipsOf(other, 'b').map(({ id }) => id),
        () => cycle,
      ),
    ).toBeNull();
  });
  test('repeated to the end of the section, of the project, once more', () => {
    expect(acts.endBeatFor(project, 20, 32)).toBe(24);
    expect(acts.endBeatFor(project, 40, 60)).toBe(60);
    expect(clipsOf(done(acts.repeatTo(project, ['b2'], 32)), 'b')[1].lengthBeats).toBe(12);
    expect(clipsOf(done(acts.repeatOnce(project, ['b2'], () => cycle)), 'b')[1].lengthBeats).toBe(14);
    expect(acts.repeatTo(project, ['b2'], 10)).toBeNull();
  });
  test('copies go, and the clips stay', () => {
    const made = done(acts.copyClips(project, ['b1', 'b2'], 2, 1, newId));
    expect(clipsOf(made, 'b')).toEqual(clipsOf(project, 'b'));
    expect(clipsOf(made, 'c').map(({ startBeat, lengthBeats }) => [startBeat, lengthBeats])).toEqual([
      [6, 12],
      [22, 6],
    ]);
  });
  test('several are moved together, by beats and tracks, and none leaves the piece', () => {
    const made = done(acts.moveClips(project, ['b1', 'b2'], -99, 9));
    expect(clipsOf(made, 'c').map(({ startBeat }) => startBeat)).toEqual([0, 16]);
    expect(clipsOf(made, 'b')).toEqual([]);
    expect(acts.moveClips(project, ['b1'], 0, 0)).toBeNull();
  });
  test('copied behind themselves as a whole', () => {
    const made = done(acts.copyBehind(project, ['b1', 'b2'], newId));
    expect(clipsOf(made, 'b').map(({ startBeat }) => startBeat)).toEqual([4, 20, 26, 42]);
  });
  test('trimmed at the start what is inside stays where it sounds; slipped it moves', () => {
    const made = done(acts.trimStart(project, ['b1'], 3));
    expect(clipsOf(made, 'b')[0]).toMatchObject({ startBeat: 7, lengthBeats: 9, offsetBeats: 5 });
    expect(soundsAt(made, 10.125)).toEqual(soundsAt(project, 10.125));
    expect(clipsOf(done(acts.trimStart(made, ['b1'], -99), made), 'b')[0]).toMatchObject({ startBeat: 2, offsetBeats: 0 });
    expect(clipsOf(done(acts.slipInside(project, ['b1'], -3, () => cycle)), 'b')[0]).toMatchObject({ startBeat: 4, offsetBeats: 7 });
    expect(clipsOf(done(acts.slipInside(project, ['b1'], -3, () => Infinity)), 'b')[0].offsetBeats).toBe(0);
  });
  test('a break is silent, and nothing else changes', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 100 }), fc.integer({ min: 1, max: 40 }), (from, length) => {
        const [start, end] = [from / 4, (from + length) / 4],
          edit = acts.silence(project, ['a', 'b'], start, end, newId);
        if (!edit) return;
        const made = done(edit);
        expect(soundsAtAll(places, made)).toEqual(soundsAtAll(places, project, (beat) => (beat >= start && beat < end ? null : beat)));
      }),
    );
  });
  test('gaps by pattern: two bars, two bars of rest', () => {
    const made = done(acts.gapsByPattern(project, ['a1'], [true, true, false, false], bar, newId));
    for (const beat of places.filter((each) => each < 32)) {
      const plays = Math.floor(beat / bar) % 4 < 2;
      expect(soundsAt(made, beat).some((each) => each.startsWith('a '))).toBe(plays);
    }
    expect(clipsOf(made).map(({ startBeat, lengthBeats }) => [startBeat, lengthBeats])).toEqual([
      [0, 8],
      [16, 8],
    ]);
  });
  test('tracks: once more below, and in the place of a neighbour', () => {
    const made = done(acts.duplicateTrack(project, 'b', newId));
    expect(made.tracks.map(({ id }) => id).slice(0, 2)).toEqual(['a', 'b']);
    expect(made.tracks[2].clips).toHaveLength(2);
    expect(done(acts.moveTrack(project, 'c', -1)).tracks.map(({ id }) => id)).toEqual(['a', 'c', 'b']);
    expect(acts.moveTrack(project, 'a', -1)).toBeNull();
  });
});

describe('tracks', () => {
  const names = (made: Project) => made.tracks.map(({ id }) => id).join('');
  test('go to any place', () => {
    expect(names(done(acts.moveTrackTo(project, 'a', 2)))).toBe('bca');
    expect(names(done(acts.moveTrackTo(project, 'c', 0)))).toBe('cab');
    expect([acts.moveTrackTo(project, 'a', 0), acts.moveTrackTo(project, 'a', 3), acts.moveTrack(project, 'a', -1)]).toEqual([
      null,
      null,
      null,
    ]);
  });
  test('several are changed in one act', () => {
    const made = done(acts.changeTracks(project, ['a', 'c'], ({ gainDb }) => ({ gainDb: gainDb - 2, setAside: true })));
    expect(made.tracks.map(({ gainDb, setAside }) => [gainDb, setAside])).toEqual([
      [-2, true],
      [0, false],
      [-2, true],
    ]);
    expect(acts.changeTracks(project, ['nowhere'], () => ({ muted: true }))).toBeNull();
  });
});

describe('sections', () => {
  test('again: the same once more behind it, and all that follows later', () => {
    const made = done(sections.repeatSection(project, 'main', newId));
    expect(made.sections.map(({ startBeat, lengthBeats }) => [startBeat, lengthBeats])).toEqual([
      [0, 8],
      [8, 16],
      [24, 16],
      [40, 8],
    ]);
    for (const beat of places.filter((each) => each < 48))
      expect([beat, soundsAt(made, beat)]).toEqual([beat, soundsAt(project, beat < 24 ? beat : beat - 16)]);
    expect(made.chords.map(({ startBeat, symbol }) => `${startBeat} ${symbol}`)).toEqual(['0 Dm', '8 C', '16 F', '24 C', '32 F', '40 Dm']);
  });
  test('room is made anywhere: what lies before stays, what lies behind moves', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 31 }), fc.integer({ min: 1, max: 16 }), (at, length) => {
        const made = done(sections.insertBeats(project, at, length, newId));
        const looked = places.filter((each) => each < 32 + length);
        expect(soundsAtAll(looked, made)).toEqual(
          soundsAtAll(looked, project, (beat) => (beat < at ? beat : beat < at + length ? null : beat - length)),
        );
      }),
    );
  });
  test('taken out, with the gap and without', () => {
    const closed = done(sections.takeOutSection(project, 'main', true, newId)),
      open = done(sections.takeOutSection(project, 'main', false, newId));
    for (const beat of places.filter((each) => each < 32)) {
      expect(soundsAt(closed, beat)).toEqual(soundsAt(project, beat < 8 ? beat : beat + 16));
      expect(soundsAt(open, beat)).toEqual(beat >= 8 && beat < 24 ? [] : soundsAt(project, beat));
    }
    expect(closed.sections.map(({ id, startBeat }) => `${id} ${startBeat}`)).toEqual(['intro 0', 'out 8']);
    expect(closed.chords.map(({ startBeat }) => startBeat)).toEqual([0, 8]);
  });
  test('in the place of its neighbour', () => {
    const made = done(sections.swapSection(project, 'main', 1, newId));
    expect(made.sections.map(({ id, startBeat }) => `${id} ${startBeat}`)).toEqual(['intro 0', 'out 8', 'main 16']);
    for (const beat of places.filter((each) => each < 32))
      expect(soundsAt(made, beat)).toEqual(soundsAt(project, beat < 8 ? beat : beat < 16 ? beat + 16 : beat - 8));
    expect(sections.swapSection(project, 'intro', -1, newId)).toBeNull();
  });
  test.each([
    ['the last before the first', 'out', 0, ['out 0', 'intro 8', 'main 16'], (beat: number) => (beat < 8 ? beat + 24 : beat - 8)],
    ['the first behind the last', 'intro', 32, ['main 0', 'out 16', 'intro 24'], (beat: number) => (beat < 24 ? beat + 8 : beat - 24)],
  ])('dragged: %s', (_, sectionId, toBeat, lines, from) => {
    const made = done(sections.moveSection(project, sectionId, toBeat, newId));
    expect(made.sections.map(({ id, startBeat }) => `${id} ${startBeat}`).sort()).toEqual([...lines].sort());
    for (const beat of places.filter((each) => each < 32)) expect(soundsAt(made, beat)).toEqual(soundsAt(project, from(beat)));
  });
  test('a section goes to a line between others only', () => {
    for (const [sectionId, beat] of [
      ['intro', 12],
      ['main', 8],
      ['main', 24],
      ['nobody', 0],
    ] as const)
      expect(sections.moveSection(project, sectionId, beat, newId)).toBeNull();
  });
  test('eight bars made ten by the middle: first and last stay, plain ones come again', () => {
    expect(sections.barsLengthened(8, 10, 'middle')).toEqual([0, 1, 2, 3, 4, 5, 6, 5, 6, 7]);
    expect(sections.barsLengthened(4, 6, 'all')).toEqual([0, 1, 2, 3, 0, 1]);
    expect(sections.barsLengthened(4, 6, 'empty')).toEqual([0, 1, 2, 3, -1, -1]);
    expect(sections.barsLengthened(8, 6, 'middle')).toEqual([0, 1, 2, 3, 4, 7]);
    expect(sections.barsLengthened(2, 4, 'middle')).toEqual([0, 1, 0, 1]);
  });
  test('a section of any length sounds as its plan says, and all behind it moves along', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 9 }), fc.constantFrom(...(['middle', 'all', 'empty'] as const)), (newBars, how) => {
        const edit = sections.resizeSection(project, 'main', newBars, how, bar, newId);
        if (!edit) return expect(newBars).toBe(4);
        const made = done(edit),
          plan = sections.barsLengthened(4, newBars, how),
          by = newBars * bar - 16;
        const looked = places.filter((each) => each < 32 + by),
          cameFrom = (beat: number) => {
            const within = beat >= 8 && beat < 8 + newBars * bar,
              old = within ? plan[Math.floor((beat - 8) / bar)] : 0;
            return old < 0 ? null : beat < 8 ? beat : within ? 8 + old * bar + ((beat - 8) % bar) : beat - by;
          };
        expect(soundsAtAll(looked, made)).toEqual(soundsAtAll(looked, project, cameFrom));
        expect(made.sections.map(({ startBeat }) => startBeat)).toEqual([0, 8, 24 + by]);
      }),
    );
  });
  test('four tracks come in every four bars, the thinnest first; and go the same way', () => {
    const tracks = ['p', 'q', 'r', 's'],
      long: Project = {
        ...emptyProject('Build', 120, null),
        sections: [{ kind: 'section', id: 'x', name: 'Build', startBeat: 0, lengthBeats: 64 }],
        tracks: tracks.map((id) => plainTrack({ id, clips: [plainClip({ id: `${id}1`, lengthBeats: 64 })] })),
      },
      density: Record<string, number | null> = { p: 3, q: 1, r: null, s: 2 },
      entries = sections.entriesOf(tracks, 4, 16, (id) => density[id]);
    expect(entries).toEqual([
      { trackId: 'q', bar: 0 },
      { trackId: 's', bar: 4 },
      { trackId: 'p', bar: 8 },
      { trackId: 'r', bar: 12 },
    ]);
    const made = done(sections.applyEntries(long, long.sections[0], entries, 'in', bar, newId), long);
    expect(tracks.map((id) => clipsOf(made, id)[0].startBeat / bar + 1)).toEqual([9, 1, 13, 5]);
    const out = done(sections.applyEntries(long, long.sections[0], entries, 'out', bar, newId), long);
    expect(tracks.map((id) => clipsOf(out, id)[0].lengthBeats / bar)).toEqual([8, 16, 4, 12]);
  });
});
