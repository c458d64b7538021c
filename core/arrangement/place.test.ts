import { applyEdit } from './edit';
import type { LoopSource } from './fit-request';
import { defaultLengthBars, placeLoop, placingConflict, type Placing } from './place';
import { untreated } from './treatment';
import { emptyProject } from './tree';

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
  expect(placed.tracks[0]).toMatchObject({ name: 'Bass', clips: [{ startBeat: 16, lengthBeats: 32, loopId: 7 }] });
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
      clipOf({ ...placing, treatment: { ...untreated, shiftSemitones: -12, reverse: true, firstBars: 1 }, offsetBeats: 1 }),
    ).toMatchObject({
      shiftSemitones: -12,
      offsetBeats: 1,
      treatment: { reverse: true, firstBars: 1 },
    });
    expect(clipOf(placing)).not.toHaveProperty('treatment');
  });
  test('a start moved back by a beat is the last beat of the lap', () => {
    expect(clipOf({ ...placing, offsetBeats: -1 }).offsetBeats).toBe(15);
    expect(clipOf({ ...placing, offsetBeats: 17 }).offsetBeats).toBe(1);
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
    expect(clipAt(3)).toMatchObject({ startBeat: 0, lengthBeats: 3, offsetBeats: 1 }));
  test('an impact begins there', () =>
    expect(
      applyEdit(project, placeLoop(project, { ...placing, loop: { ...riser, instrument: 'impact' }, startBeat: 16 })).project.tracks[0]
        .clips[0],
    ).toMatchObject({ startBeat: 16, lengthBeats: 4 }));
});
