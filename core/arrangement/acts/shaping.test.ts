import fc from 'fast-check';
import { bar, clipsOf, cycle, done, newId, project, soundsAll, soundsAt } from '../../../test/generators/piece';
import { loopIdOf } from '../tree';
import * as shaping from './shaping';
import { cutClips, joinClips } from './clips';

const all = project.tracks.flatMap(({ clips }) => clips.map(({ id }) => id)),
  fadesOf = (made: typeof project, track = 'b') => clipsOf(made, track).map(({ fadeInBeats, fadeOutBeats }) => [fadeInBeats, fadeOutBeats]);

describe('fades', () => {
  test('are as long as the clip together, and the one that is set has its way', () => {
    const made = done(shaping.setFades(project, ['b2'], { fadeInBeats: 4 })),
      both = done(shaping.setFades(made, ['b2'], { fadeOutBeats: 5 }), made);
    expect(fadesOf(both)).toEqual([
      [0, 0],
      [1, 5],
    ]);
    expect(fadesOf(done(shaping.setFades(project, ['b2'], { fadeInBeats: 400 })))[1]).toEqual([6, 0]);
  });

  test('stay at the ends of the whole when it is cut, and are there again when it is joined', () => {
    const rising = done(shaping.setFades(project, ['b1'], { fadeInBeats: 2 })),
      faded = done(shaping.setFades(rising, ['b1'], { fadeOutBeats: 3 }), rising),
      cut = done(cutClips(faded, ['b1'], [8, 12], newId), faded);
    expect(fadesOf(cut).slice(0, 3)).toEqual([
      [2, 0],
      [0, 0],
      [0, 3],
    ]);
    const ids = clipsOf(cut, 'b').map(({ id }) => id);
    expect(
      clipsOf(
        done(
          joinClips(cut, ids, () => cycle),
          cut,
        ),
        'b',
      ),
    ).toEqual(clipsOf(faded, 'b'));
  });

  test('cross where two overlap, and nowhere else', () => {
    expect(shaping.crossfade(project, all)).toBeNull();
    const over = done({ kind: 'set-clip', clipId: 'b2', trackId: 'b', changes: { startBeat: 13 } });
    expect(fadesOf(done(shaping.crossfade(over, all), over))).toEqual([
      [0, 3],
      [3, 0],
    ]);
  });
});

describe('how clips sound', () => {
  test('several are silenced in one act, and heard again in one', () => {
    const silent = done(shaping.toggleMuted(project, ['a1', 'b1']));
    expect(clipsOf(silent)[0].muted && clipsOf(silent, 'b')[0].muted).toBe(true);
    // With one that sounds among them, all become silent.
    const more = done(shaping.toggleMuted(silent, ['a1', 'b2']), silent);
    expect(clipsOf(more, 'b').map(({ muted }) => muted)).toEqual([true, true]);
    expect(clipsOf(done(shaping.toggleMuted(more, ['a1', 'b1', 'b2']), more), 'b').map(({ muted }) => muted)).toEqual([false, false]);
  });

  test('transposed and levelled within what there is, in cents too', () => {
    const made = done(shaping.transposeClips(project, ['a1'], 0.07));
    expect(clipsOf(done(shaping.transposeClips(made, ['a1'], 99), made))[0].shiftSemitones).toBe(24);
    expect(clipsOf(made)[0].shiftSemitones).toBe(0.07);
    expect(clipsOf(done(shaping.levelClips(project, ['a1'], -90)))[0].gainDb).toBe(-60);
  });

  test('as they came: no tempo, no key, nothing done; place and level stay', () => {
    const changes = { shiftSemitones: 3, gainDb: -4, overrides: { reverse: true } },
      made = done({ kind: 'set-clip', clipId: 'a1', trackId: 'a', changes });
    expect(clipsOf(done(shaping.asTheyCame(made, ['a1']), made))[0]).toEqual({
      ...clipsOf(project)[0],
      gainDb: -4,
      followTempo: false,
      followKey: false,
    });
  });
});

describe('parts of a clip', () => {
  test('only a part is repeated to its end: bar 3 of the piece, again and again', () => {
    const made = done(shaping.repeatPart(project, ['a1'], 8, 12, newId));
    for (let beat = 12.5; beat < 32; beat++) expect(soundsAt(made, beat)[0]).toBe(soundsAt(project, 8 + (beat % bar))[0]);
    for (let beat = 0.5; beat < 12; beat++) expect(soundsAt(made, beat)).toEqual(soundsAt(project, beat));
    expect(shaping.repeatPart(project, ['b2'], 0, 4, newId)).toBeNull();
  });

  test('what does not come out even ends with the clip', () => {
    const made = done(shaping.repeatPart(project, ['b1'], 4, 9, newId));
    expect(
      clipsOf(made, 'b')
        .slice(0, 3)
        .map(({ startBeat, lengthBeats }) => [startBeat, lengthBeats]),
    ).toEqual([
      [4, 5],
      [9, 5],
      [14, 2],
    ]);
  });

  test('its repetitions begin where its loop begins', () => {
    expect(shaping.repetitionLines(clipsOf(project, 'b')[0], cycle)).toEqual([4, 10]);
    expect(shaping.repetitionLines(clipsOf(project)[0], cycle)).toEqual([0, 8, 16, 24]);
    expect(shaping.repetitionLines(clipsOf(project)[0], Infinity)).toEqual([0]);
  });

  test('one repetition apart sounds as before, and is a clip of its own', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 127 }), (quarter) => {
        const edit = shaping.repetitionApart(project, 'a1', quarter / 4, cycle, newId);
        if (!edit) throw new Error('nothing was parted');
        const made = done(edit);
        expect(soundsAll(made)).toEqual(soundsAll(project));
        expect(clipsOf(made).some(({ startBeat, lengthBeats }) => startBeat <= quarter / 4 && lengthBeats === cycle)).toBe(true);
      }),
    );
  });

  test('others in turn: A A A B', () => {
    const made = done(
      shaping.varyClips(project, [{ clipId: 'a1', pattern: [null, null, null, { kind: 'loop', loopId: 9 }], cycleBeats: cycle }], newId),
    );
    expect(clipsOf(made).map(loopIdOf)).toEqual([1, 1, 1, 9]);
    expect(clipsOf(made).map(({ startBeat }) => startBeat)).toEqual([0, 8, 16, 24]);
    expect(shaping.varyClips(project, [{ clipId: 'a1', pattern: [], cycleBeats: cycle }], newId)).toBeNull();
  });

  test('another in its place: place, length and gain stay', () => {
    const louder = done(shaping.levelClips(project, ['b1'], 3)),
      made = done(shaping.playInstead(louder, ['b1'], { kind: 'loop', loopId: 9 }), louder);
    expect(clipsOf(made, 'b')[0]).toEqual({ ...clipsOf(louder, 'b')[0], content: { kind: 'loop', loopId: 9 } });
  });

  test('cut at the lines of sections; found by section, by neighbour', () => {
    const made = done(shaping.cutAtSections(project, ['a1'], newId));
    expect(clipsOf(made).map(({ startBeat }) => startBeat)).toEqual([0, 8, 24]);
    expect(shaping.clipsInSection(project, 'out')).toEqual(['a1', 'b2']);
    expect(shaping.clipsInSection(project, 'nowhere')).toEqual([]);
    expect([shaping.neighbourOf(project, 'b1', 1), shaping.neighbourOf(project, 'b1', -1)]).toEqual(['b2', null]);
  });

  test('a break that rings on: it goes down behind its line and is silent up to the end', () => {
    const made = done(shaping.breakRinging(project, ['a'], 8, 16, 2, newId));
    expect(clipsOf(made).map(({ startBeat, lengthBeats, fadeOutBeats }) => [startBeat, lengthBeats, fadeOutBeats])).toEqual([
      [0, 8, 0],
      [8, 2, 2],
      [16, 16, 0],
    ]);
  });
});
