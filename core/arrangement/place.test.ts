import { cutClips, trimStart } from './acts/clips';
import { applyEdit } from './edit';
import { landingFrames, type LoopSource } from './fit-request';
import { createRandom } from '../synth/random';
import { asItIs, defaultLengthBars, fitHeard, placeLoop, placingConflict, type Heard, type Placing } from './place';
import { settingAt } from './harmony/harmony';
import { scheduleProject } from './schedule';
import { noOverrides, type ClipOverrides } from './fit-settings';
import { emptyProject, type Project } from './tree';

const loop: LoopSource = {
  loopId: 7,
  kind: 'loop',
  media: 'audio',
  soundSha: 's',
  soundFrames: 400000,
  tempoBpm: 124,
  beats: 16,
  barBeats: 4,
  key: { tonic: 0, mode: 'major' },
  pitched: true,
  family: 'bass',
  instrument: 'electric-bass',
  loudnessLufs: -14,
  startFrame: 0,
  onsetFrames: [],
};
const project = emptyProject('P', 120, { tonic: 7, mode: 'major' });
const placing: Placing = {
  loop,
  title: 'Bass',
  trackId: null,
  startBeat: 16,
  lengthBars: 8,
  givesWay: 'loop',
  newTrackId: 't',
  newClipId: 'c',
};

test('the loop gives way: a new track named after it, the project unchanged', () => {
  const placed = applyEdit(project, placeLoop(project, placing)).project;
  expect(placed.tempoBpm).toBe(120);
  expect(placed.tracks[0]).toMatchObject({
    name: 'Bass',
    clips: [{ startBeat: 16, lengthBeats: 32, content: { kind: 'loop', loopId: 7 } }],
  });
});
test('the project gives way: 120 to 124, G to C (common practice: all clips keep their bars)', () => {
  const first = applyEdit(project, placeLoop(project, placing)).project;
  const second = applyEdit(
    first,
    placeLoop(first, { ...placing, givesWay: 'project', trackId: 't', newClipId: 'd', startBeat: 48 }),
  ).project;
  expect(second).toMatchObject({ tempoBpm: 124, key: { tonic: 0, mode: 'major' } });
  expect(second.tracks[0].clips.map((clip) => clip.startBeat)).toEqual([16, 48]);
});
test('conflicts are told: tempo and key, neither, or only what differs', () => {
  expect(placingConflict(project, loop)).toEqual({ tempo: true, key: true });
  expect(placingConflict({ ...project, tempoBpm: 62, key: { tonic: 9, mode: 'minor' } }, loop)).toEqual({ tempo: false, key: false });
  expect(placingConflict(project, { ...loop, key: null, pitched: false })).toEqual({ tempo: true, key: false });
});
test('where a section says the key, what differs is judged by that, and it is the section that gives way', () => {
  const inSections: Project = {
      ...project,
      sections: [{ kind: 'section', id: 's', name: 'Break', startBeat: 16, lengthBeats: 16, key: { tonic: 9, mode: 'minor' } }],
    },
    key = { tonic: 9, mode: 'minor' as const },
    same = { ...loop, tempoBpm: project.tempoBpm, key };
  expect(placingConflict(settingAt(inSections, 16), same).key).toBe(false);
  expect(placingConflict(settingAt(inSections, 0), same).key).toBe(true);
  const other = { ...same, key: { tonic: 4, mode: 'minor' as const } },
    placed = (startBeat: number) =>
      applyEdit(inSections, placeLoop(inSections, { ...placing, loop: other, startBeat, givesWay: 'project' })).project;
  expect([placed(16).key, placed(16).sections[0].key]).toEqual([project.key, other.key]);
  expect([placed(0).key, placed(0).sections[0].key]).toEqual([other.key, key]);
});
test('lengths: to the end of the section, else 8 bars; a one-shot as long as it is', () => {
  expect(
    defaultLengthBars({ ...project, sections: [{ kind: 'section', id: 's', name: 'Verse', startBeat: 0, lengthBeats: 64 }] }, loop, 16),
  ).toBe(12);
  expect(defaultLengthBars(project, loop, 0)).toBe(8);
  const five = applyEdit(project, placeLoop(project, { ...placing, startBeat: 0, lengthBars: 5 })).project;
  expect(defaultLengthBars(five, loop, 0)).toBe(8);
  expect(defaultLengthBars(project, { ...loop, kind: 'one-shot', tempoBpm: null, beats: null, soundFrames: 44100 }, 0)).toBe(1);
});

describe('what was found while auditioning', () => {
  const clipOf = (placed: Placing) => applyEdit(project, placeLoop(project, placed)).project.tracks[0].clips[0];
  test('goes along into the clip; what was left alone is not written down', () => {
    expect(
      clipOf({
        ...placing,
        heard: { ...asItIs, overrides: { ...noOverrides, shiftSemitones: -12, reverse: true, firstBars: 1 } },
        offsetBeats: 1,
      }),
    ).toMatchObject({
      shiftSemitones: -12,
      offsetBeats: 1,
      overrides: { reverse: true, firstBars: 1 },
    });
    expect(clipOf(placing).overrides).toEqual({});
  });
  test('a start moved back by a beat is the last beat of the cycle', () => {
    expect(clipOf({ ...placing, offsetBeats: -1 }).offsetBeats).toBe(15);
    expect(clipOf({ ...placing, offsetBeats: 17 }).offsetBeats).toBe(1);
  });
});

describe('a fill of two bars', () => {
  const fill: LoopSource = { ...loop, beats: 8, soundFrames: Math.round(8 * (60 / (loop.tempoBpm ?? 120)) * 44100), isFill: true },
    clipAt = (startBeat: number, lengthBars = 2) =>
      applyEdit(project, placeLoop(project, { ...placing, loop: fill, startBeat, lengthBars })).project.tracks[0].clips[0];
  test('is as long as it is, and ends on the line it is placed at', () => {
    expect(defaultLengthBars(project, fill, 32)).toBe(2);
    expect(clipAt(32)).toMatchObject({ startBeat: 24, lengthBeats: 8, offsetBeats: 0, landsAfterBeats: 8 });
  });
  test('twice, it leads up for four bars', () =>
    expect(clipAt(32, 4)).toMatchObject({ startBeat: 16, lengthBeats: 16, landsAfterBeats: 16 }));
  test('with one bar before its line only its second is heard', () =>
    expect(clipAt(4)).toMatchObject({ startBeat: 0, lengthBeats: 4, offsetBeats: 4, landsAfterBeats: 4 }));
  test('at bar 1 it begins', () => expect(clipAt(0)).toMatchObject({ startBeat: 0, lengthBeats: 8, landsAfterBeats: null }));
  test('that lands a beat before its end does so on the line, and its last beat is heard behind it', () => {
    const early = { ...fill, landingFrame: Math.round((7 / 8) * fill.soundFrames) },
      clip = applyEdit(project, placeLoop(project, { ...placing, loop: early, startBeat: 32, lengthBars: 2 })).project.tracks[0].clips[0];
    expect(clip.startBeat).toBeCloseTo(25, 3);
    expect(clip.lengthBeats).toBeCloseTo(8, 3);
    expect(clip.landsAfterBeats).toBeCloseTo(7, 3);
  });
  test.each([
    ['at its end where nothing is known', undefined, 88_200],
    ['where it is said to', 60_000, 60_000],
  ])('that plays once lands %s', (_, landingFrame, at) => {
    const once: LoopSource = { ...fill, kind: 'phrase', tempoBpm: null, beats: null, key: null, soundFrames: 88_200, landingFrame };
    expect(landingFrames(once, fitHeard(once, project))).toBe(at);
  });
});

describe('a riser', () => {
  // 88,200 frames are two seconds: four beats at 120.
  const riser: LoopSource = {
    ...loop,
    kind: 'one-shot',
    tempoBpm: null,
    beats: null,
    key: null,
    instrument: 'riser',
    family: 'fx',
    soundFrames: 88200,
  };
  const clipAt = (startBeat: number) =>
    applyEdit(project, placeLoop(project, { ...placing, loop: riser, startBeat })).project.tracks[0].clips[0];
  test('ends on the line it is placed at', () => expect(clipAt(16)).toMatchObject({ startBeat: 12, lengthBeats: 4, offsetBeats: 0 }));
  test('too long for what lies before, it is heard from bar 1 on and still ends there', () =>
    expect(clipAt(3)).toMatchObject({ startBeat: 0, lengthBeats: 3, offsetBeats: 0 }));
  test.each([
    ['at its own pitch', {}, 120],
    ['up 5', { shiftSemitones: 5 }, 120],
    ['down an octave on a tape', { shiftSemitones: -12, stretchMode: 'plain' as const }, 120],
    ['half as fast', { speedRatio: 0.5 }, 120],
    ['in a faster project', {}, 132],
    ['in a slower one, up 7 on a tape', { shiftSemitones: 7, stretchMode: 'plain' as const }, 90],
  ])('%s it lands on its line, whole', (_, changes, tempoBpm) => {
    const heard = { ...asItIs, overrides: { ...noOverrides, ...changes } },
      placed = applyEdit(project, placeLoop(project, { ...placing, loop: riser, startBeat: 32, heard })).project,
      { events, requests } = scheduleProject({ ...placed, tempoBpm }, new Map([[riser.loopId, riser]])),
      [request] = requests.values();
    expect(events).toHaveLength(1);
    expect(Math.abs(events[0].endFrame - 32 * ((60 / tempoBpm) * 44100))).toBeLessThanOrEqual(1);
    expect(events[0].endFrame - events[0].startFrame).toBe(request.targetFrames);
    expect(events[0].offsetFrame).toBe(0);
  });
  test.each([
    ['at its own pitch', {}, 120],
    ['twice as fast', { speedRatio: 2 }, 120],
    ['on a tape, in a slower project', { shiftSemitones: -5, stretchMode: 'plain' as const }, 96],
    ['backwards', { reverse: true }, 120],
  ])('%s, what rings behind its landing does so behind the line', (_, changes, tempoBpm) => {
    const ringing = { ...riser, landingFrame: 66_150 },
      heard = { ...asItIs, overrides: { ...noOverrides, ...changes } },
      placed = applyEdit(project, placeLoop(project, { ...placing, loop: ringing, startBeat: 32, heard })).project,
      [clip] = placed.tracks[0].clips,
      { events, requests } = scheduleProject({ ...placed, tempoBpm }, new Map([[ringing.loopId, ringing]])),
      [request] = requests.values(),
      line = 32 * ((60 / tempoBpm) * 44100),
      share = request.reverse ? 0.25 : 0.75;
    expect(clip.startBeat + (clip.landsAfterBeats ?? NaN)).toBeCloseTo(32, 9);
    expect(Math.abs(events[0].startFrame + share * request.targetFrames - line)).toBeLessThanOrEqual(1);
    if (tempoBpm === 120) expect(Math.abs(events[0].endFrame - events[0].startFrame - request.targetFrames)).toBeLessThanOrEqual(1);
  });
  test('cut or trimmed, it lands where it did', () => {
    const ringing = { ...riser, landingFrame: 66_150 },
      placed = applyEdit(project, placeLoop(project, { ...placing, loop: ringing, startBeat: 32 })).project,
      [{ id }] = placed.tracks[0].clips,
      startOf = (made: Project) =>
        scheduleProject(made, new Map([[ringing.loopId, ringing]])).events.map(({ startFrame, offsetFrame }) => startFrame - offsetFrame);
    let names = 0;
    for (const edit of [cutClips(placed, [id], [30, 33], () => `n${names++}`), trimStart(placed, [id], 1)])
      for (const start of startOf(edit ? applyEdit(placed, edit).project : placed))
        expect(Math.abs(start - startOf(placed)[0])).toBeLessThanOrEqual(1);
  });
  test('moved up it lasts as long as before; on a tape it does not', () => {
    const lasts = (overrides: Partial<ClipOverrides>) =>
      fitHeard(riser, project, { ...asItIs, overrides: { ...noOverrides, ...overrides } }).request.targetFrames;
    expect(lasts({ shiftSemitones: 5 })).toBe(88200);
    expect(lasts({ shiftSemitones: 12, stretchMode: 'plain' })).toBe(44100);
  });
  test('an impact begins there', () =>
    expect(
      applyEdit(project, placeLoop(project, { ...placing, loop: { ...riser, instrument: 'impact' }, startBeat: 16 })).project.tracks[0]
        .clips[0],
    ).toMatchObject({ startBeat: 16, lengthBeats: 4 }));
});

describe('placed is what was heard', () => {
  const random = createRandom(11),
    pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)],
    kinds: readonly LoopSource[] = [
      loop,
      { ...loop, kind: 'one-shot', tempoBpm: null, beats: null },
      { ...loop, kind: 'phrase', tempoBpm: 97, beats: null },
      { ...loop, kind: 'phrase', tempoBpm: null, beats: null, media: 'midi' },
      { ...loop, kind: 'one-shot', tempoBpm: null, beats: null, instrument: 'riser' },
    ];
  test.each(Array.from({ length: 40 }, (_, k) => k))('at random switches, level and overrides (%d)', () => {
    const source = pick(kinds),
      heard: Heard = {
        followTempo: random() < 0.5,
        followKey: random() < 0.5,
        gainDb: pick([-11.3, 0, 4.5, 18]),
        overrides: {
          ...noOverrides,
          stretchMode: pick([null, 'tonal', 'percussive', 'plain']),
          speedRatio: pick([0.5, 1, 2]),
          shiftSemitones: pick([-5, 0, 0.1, 7]),
          reverse: random() < 0.3,
          firstBars: pick([null, 1]),
        },
      },
      candidate = fitHeard(source, project, heard),
      placed = applyEdit(project, placeLoop(project, { ...placing, loop: source, startBeat: 64, heard })).project,
      { events, requests } = scheduleProject(placed, new Map([[source.loopId, source]]));
    expect([...requests.values()]).toEqual([candidate.request]);
    expect(20 * Math.log10(events[0].gainRatio)).toBeCloseTo(heard.gainDb, 6);
  });
});
