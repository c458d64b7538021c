import type { LoopSource } from '../arrangement/fit-request';
import { applyEdit } from '../arrangement/edit';
import { loopSource } from '../../test/generators/loop-source';
import { scheduleProject } from '../arrangement/schedule';
import { emptyPattern } from '../arrangement/pattern/make-pattern';
import { emptyProject, newClip, newClipOf, newTrack, type Clip, type Project } from '../arrangement/tree';
import { loadTransforms } from '../dsp/real-fft';
import { parseSmf } from '../formats/smf/parse';
import { writeWav } from '../formats/wav/write';
import { parseKey } from '../theory/key';
import { renderFitted } from '../mix/render-fitted';
import { renderMix } from '../mix/render';
import { createRandom } from '../synth/random';
import { beatToFrame, projectRateHz } from '../units/time';
import { bringBack } from './bring-back';
import { factsOfPart } from './facts-of-part';
import { instrumentOfPart, notesOfPart, writePartNotes } from './notes-of-part';
import { heardPart, partOf, type PartAsked } from './part';
import { renderPart, scheduleOfPart } from './render-part';

beforeAll(loadTransforms);

/** Sounds of a few partials, told apart by their number. */
const soundOf = (loopId: number, frames = 88_200): Uint8Array => {
  const random = createRandom(loopId),
    partials = Array.from({ length: 5 }, () => [60 + Math.floor(random() * 2000), random() * 6.28] as const);
  return writeWav(
    {
      sampleRateHz: projectRateHz,
      channels: [
        Float32Array.from({ length: frames }, (_, i) =>
          partials.reduce((sum, [hz, phase]) => sum + 0.06 * Math.sin(phase + (2 * Math.PI * hz * i) / projectRateHz), 0),
        ),
      ],
    },
    'float32',
  );
};

/** Fits of the four made-up loops, each made once. */
const fitted = new Map<string, Float32Array[]>();
const buffersFor = (schedule: ReturnType<typeof scheduleProject>, sounds: (sha: string) => Uint8Array) =>
  new Map(
    [...schedule.requests].map(([key, request]) => {
      if (request.soundSha === '99') return [key, renderFitted(request, sounds(request.soundSha))] as const;
      const made = fitted.get(key) ?? renderFitted(request, sounds(request.soundSha));
      fitted.set(key, made);
      return [key, made] as const;
    }),
  );

const clip = (id: string, loopId: number, startBeat: number, lengthBeats: number, changes: Partial<Clip> = {}) =>
    newClip({ id, loopId, startBeat, lengthBeats, ...changes }),
  piece: Project = {
    ...emptyProject('Engine Room', 120, { tonic: 2, mode: 'minor' }),
    masterGainDb: -6,
    chords: [
      { startBeat: 0, symbol: 'Dm7' },
      { startBeat: 10, symbol: 'Gm7' },
    ],
    tracks: [
      newTrack({ id: 'a', name: 'Bass', gainDb: -3, pan: -0.3, clips: [clip('a1', 1, 0, 16), clip('a2', 1, 16, 8, { muted: true })] }),
      newTrack({ id: 'b', name: 'Keys', clips: [clip('b1', 2, 4, 8, { gainDb: -4 })] }),
      newTrack({ id: 'c', name: 'Drums', soloed: true, muted: true, clips: [clip('c1', 3, 0, 16)] }),
    ],
  },
  asked: PartAsked = { trackIds: ['a', 'b', 'c'], clipIds: null, fromBeat: 8, toBeat: 20, tail: 'wrap' },
  neverOnce = () => false;

describe('a part of a project', () => {
  test('begins at its first beat, cut at its edges, at its own level', () => {
    const part = partOf(piece, 'Part', asked, neverOnce);
    expect(
      part.tracks.map(({ clips }) => clips.map(({ startBeat, lengthBeats, offsetBeats }) => [startBeat, lengthBeats, offsetBeats])),
    ).toEqual([
      [
        [0, 8, 8],
        [8, 4, 0],
      ],
      [[0, 4, 4]],
      [[0, 8, 8]],
    ]);
    expect(part.masterGainDb).toBe(0);
    expect(part.chords).toEqual([
      { startBeat: 0, symbol: 'Dm7' },
      { startBeat: 2, symbol: 'Gm7' },
    ]);
    expect(part.tracks.some(({ soloed }) => soloed)).toBe(false);
  });
  test('only of the chosen tracks and clips', () => {
    const part = partOf(piece, 'Part', { ...asked, trackIds: ['a', 'b'], clipIds: ['b1'] }, neverOnce);
    expect(part.tracks.map(({ clips }) => clips.length)).toEqual([0, 1]);
  });
  test('what plays once and rings on is not cut at the end, unless its tail is left away', () => {
    const wraps = partOf(piece, 'Part', { ...asked, toBeat: 10 }, ({ id }) => id === 'b1'),
      cuts = partOf(piece, 'Part', { ...asked, toBeat: 10, tail: 'cut' }, ({ id }) => id === 'b1');
    expect(wraps.tracks[1].clips[0].lengthBeats).toBe(4);
    expect(cuts.tracks[1].clips[0].lengthBeats).toBe(2);
  });
  test('comes back as clips onto a track that is there', () => {
    let names = 0;
    const part = heardPart(partOf(piece, 'Part', { ...asked, trackIds: ['b'] }, neverOnce)),
      into = { ...emptyProject('Other', 96, null), tracks: [newTrack({ id: 'x', name: 'X', gainDb: -9 })] },
      { project } = applyEdit(
        into,
        bringBack(into, part, 32, () => `n${names++}`, 'x'),
      );
    expect(project.tracks).toHaveLength(1);
    expect(project.tracks[0]).toMatchObject({ name: 'X', gainDb: -9, clips: [{ startBeat: 32, lengthBeats: 4, gainDb: -4 }] });
  });
  test('what is muted is not given away', () =>
    expect(heardPart(partOf(piece, 'Part', asked, neverOnce)).tracks.map(({ id, clips }) => `${id} ${clips.length}`)).toEqual([
      'a 1',
      'b 1',
    ]));
  test('comes back as tracks, with names, levels and treatment, from a bar on', () => {
    let names = 0;
    const part = heardPart(partOf(piece, 'Part', asked, neverOnce)),
      into = emptyProject('Other', 96, null),
      { project, inverse } = applyEdit(
        into,
        bringBack(into, part, 16, () => `n${names++}`),
      );
    expect(project.tracks.map(({ name, gainDb, pan, clips }) => [name, gainDb, pan, clips[0].startBeat, clips[0].gainDb])).toEqual([
      ['Bass', -3, -0.3, 16, 0],
      ['Keys', 0, 0, 16, -4],
    ]);
    expect(applyEdit(project, inverse).project).toEqual(into);
  });
});

describe('a part with notes of the project', () => {
  const pattern = emptyPattern({
      id: 'p',
      name: 'Keys',
      lengthBeats: 4,
      key: parseKey('Dm'),
      notes: [0, 1, 2, 3].map((startBeat) => ({ id: `n${startBeat}`, startBeat, lengthBeats: 0.9, pitch: 62 + startBeat, velocity: 90 })),
    }),
    piece: Project = {
      ...emptyProject('Piece', 120, parseKey('Em')),
      patterns: [pattern, { ...pattern, id: 'unused' }],
      chords: [
        { startBeat: 0, symbol: 'Em' },
        { startBeat: 8, symbol: 'A' },
      ],
      tracks: [
        newTrack({
          id: 'k',
          name: 'Keys',
          clips: [
            newClipOf(
              { kind: 'notes', patternId: 'p' },
              { id: 'c', startBeat: 4, lengthBeats: 8, chordWay: 'roots', overrides: { instrument: 'organ' } },
            ),
          ],
        }),
      ],
    },
    part = heardPart(partOf(piece, 'Part', { trackIds: ['k'], clipIds: null, fromBeat: 4, toBeat: 12, tail: 'wrap' }, () => false)),
    eventsOf = (project: Project) => scheduleProject(project, new Map()).events.map(({ startFrame, bufferKey }) => [startFrame, bufferKey]);
  test('takes the patterns that it plays along, and plays as it did', () => {
    expect(part.patterns.map(({ id }) => id)).toEqual(['p']);
    const shift = beatToFrame(4, 120, projectRateHz);
    expect(eventsOf(part)).toEqual(eventsOf(piece).map(([frame, key]) => [(frame as number) - shift, key]));
  });
  test('comes back with patterns of its own: what is changed there changes nothing here', () => {
    let names = 0;
    const into = { ...emptyProject('Other', 120, parseKey('Em')), patterns: [pattern], chords: part.chords },
      { project } = applyEdit(
        into,
        bringBack(into, part, 0, () => `new${names++}`),
      ),
      [clip] = project.tracks[0].clips;
    expect(project.patterns).toHaveLength(2);
    expect(clip.content).toEqual({ kind: 'notes', patternId: project.patterns[1].id });
    expect(project.patterns[1].id).not.toBe('p');
    expect(eventsOf(project)).toEqual(eventsOf(part));
  });
  test('as notes: as they sound over the chords, and by which instrument', () => {
    const notes = notesOfPart(part, [], () => null),
      file = parseSmf(writePartNotes(part, notes, 8, instrumentOfPart(part, [])));
    expect(
      notes.filter(({ startBeat }) => startBeat >= 4 && startBeat % 2 === 0).every(({ pitch }) => [9, 1, 4].includes(pitch % 12)),
    ).toBe(true);
    expect(file.programs[0]).toBe(16);
    expect(instrumentOfPart({ ...part, patterns: [{ ...part.patterns[0], isDrums: true }] }, [])).toBeNull();
  });
});

/** A hundred take two minutes: ROUND_TRIPS=100. */
const roundTrips = Number(process.env.ROUND_TRIPS ?? 8);

describe('given back as a loop and placed again in a project of the same tempo and key', () => {
  const random = createRandom(5),
    pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)],
    keys = ['C minor', 'D minor', 'F# major'].map(parseKey);
  /** Some tracks and clips of four loops, at random places, levels and treatments. */
  const arrangement = (): Project => ({
    ...emptyProject('Random', pick([101.5, 120, 133.33]), pick(keys)),
    tracks: Array.from({ length: 1 + Math.floor(random() * 3) }, (_, t) =>
      newTrack({
        id: `t${t}`,
        name: `T${t}`,
        gainDb: pick([0, -6, 2]),
        pan: pick([0, -0.6, 1]),
        clips: Array.from({ length: 1 + Math.floor(random() * 3) }, (_unused, c) =>
          clip(`t${t}c${c}`, 1 + Math.floor(random() * 4), c * 4 + pick([0, 1, 2.5]), pick([1, 2, 4]), {
            gainDb: pick([0, -3]),
            shiftSemitones: pick([0, 0, 2]),
            offsetBeats: pick([0, 1]),
            fadeInBeats: pick([0, 0, 0.5]),
          }),
        ),
      }),
    ),
  });
  test.each(Array.from({ length: roundTrips }, (_, k) => k))('null below −60 dB, facts exact (%d)', (k) => {
    const from = arrangement(),
      lengthBeats = 16,
      sources = [1, 2, 3, 4].map((id) => loopSource(id)),
      part = heardPart(
        partOf(
          from,
          'Loop',
          { trackIds: from.tracks.map(({ id }) => id), clipIds: null, fromBeat: 0, toBeat: lengthBeats, tail: 'wrap' },
          neverOnce,
        ),
      ),
      schedule = scheduleOfPart(part, sources),
      sounds = (sha: string) => soundOf(Number(sha)),
      made = renderPart(part, schedule, buffersFor(schedule, sounds), lengthBeats, 'wrap');
    expect(made[0].length).toBe(beatToFrame(lengthBeats, from.tempoBpm, projectRateHz));
    const facts = Object.fromEntries(
      factsOfPart(part, lengthBeats, 'Random', sources).map(({ attribute, candidates }) => [attribute, candidates[0].value]),
    );
    expect(facts).toMatchObject({ tempo: from.tempoBpm, beats: lengthBeats, meter: '4/4', start: 0, key: from.key });
    // Placed again, twice round, beside the piece itself: where the second round begins the schedule lays it to the nearest frame.
    const file = writeWav({ sampleRateHz: projectRateHz, channels: made }, 'float32'),
      given = loopSource(99, { tempoBpm: from.tempoBpm, beats: lengthBeats, key: from.key, soundFrames: made[0].length, onsetFrames: [] }),
      again: Project = { ...from, tracks: [newTrack({ id: 'x', name: 'Given', clips: [clip('x', 99, 0, 2 * lengthBeats)] })] },
      plan = scheduleProject(again, new Map([[99, given]])),
      one = renderMix(
        again,
        plan,
        buffersFor(plan, () => file),
      ).channels,
      other = renderMix(part, schedule, buffersFor(schedule, sounds)).channels,
      frames = made[0].length,
      power = (plane: (i: number) => number) => {
        let sum = 0;
        // What rang on behind the end is in its first frames.
        for (let i = 200; i < frames; i++) sum += plane(i) ** 2;
        return sum;
      },
      db = (lap: number, side: 0 | 1) =>
        10 *
        Math.log10(power((i) => (one[side][lap + i] ?? 0) - (other[side][i] ?? 0)) / (power((i) => other[side][i] ?? 0) + 1e-12) + 1e-15);
    expect([k, Math.max(db(0, 0), db(0, 1)) < -60]).toEqual([k, true]);
    expect([k, Math.min(...[-1, 0, 1].map((away) => db(frames + away, 0))) < -60]).toEqual([k, true]);
  });
  test('in another tempo it is as long as its beats are there, to the frame', () => {
    const given = loopSource(99, { tempoBpm: 101.5, beats: 16, soundFrames: beatToFrame(16, 101.5, projectRateHz) });
    for (const tempoBpm of [80, 96, 120, 133.33]) {
      const into: Project = {
          ...emptyProject('Other', tempoBpm, null),
          tracks: [newTrack({ id: 'x', name: 'x', clips: [clip('x', 99, 0, 16)] })],
        },
        [request] = scheduleProject(into, new Map([[99, given]])).requests.values();
      expect(request.targetFrames).toBe(beatToFrame(16, tempoBpm, projectRateHz));
    }
  });
});

test('its key is known where something in it was brought into that of the piece', () => {
  const part = (changes: Partial<Clip>): Project => ({
      ...piece,
      tracks: [newTrack({ id: 'a', name: 'a', clips: [clip('a1', 1, 0, 4, changes)] })],
    }),
    keyOf = (loop: Partial<LoopSource>, changes: Partial<Clip> = {}) =>
      factsOfPart(part(changes), 4, 'Engine Room', [loopSource(1, loop)]).find(({ attribute }) => attribute === 'key')?.candidates[0].value;
  expect(keyOf({})).toEqual({ tonic: 2, mode: 'minor' });
  expect(keyOf({ family: 'drums' })).toBeUndefined();
  expect(keyOf({ pitched: false })).toBeUndefined();
  expect(keyOf({ key: null })).toBeUndefined();
  expect(keyOf({}, { followKey: false })).toBeUndefined();
});
test('a part that changes its key is in none; notes of the project are in that of the piece, told as major or minor', () => {
  const notes: Project = {
      ...emptyProject('Notes', 120, { tonic: 4, mode: 'minor', church: 'dorian' }),
      patterns: [emptyPattern({ id: 'p', name: 'P', lengthBeats: 4, key: parseKey('Dm') })],
      tracks: [
        newTrack({ id: 'a', name: 'a', clips: [newClipOf({ kind: 'notes', patternId: 'p' }, { id: 'c', startBeat: 0, lengthBeats: 4 })] }),
      ],
    },
    keyOf = (part: Project) => factsOfPart(part, 4, 'Engine Room', []).find(({ attribute }) => attribute === 'key')?.candidates[0].value,
    section = { kind: 'section' as const, id: 's', name: 'S', startBeat: 2, lengthBeats: 2 };
  expect(keyOf(notes)).toEqual({ tonic: 4, mode: 'minor' });
  expect(keyOf({ ...notes, sections: [section] })).toEqual({ tonic: 4, mode: 'minor' });
  expect(keyOf({ ...notes, sections: [{ ...section, key: { tonic: 6, mode: 'minor' } }] })).toBeUndefined();
  expect(keyOf({ ...notes, patterns: [{ ...notes.patterns[0], isDrums: true }] })).toBeUndefined();
});

test('a tail is let into the start, kept, or left away', () => {
  const sources = [loopSource(1, { kind: 'one-shot', tempoBpm: null, beats: null })],
    once: Project = {
      ...emptyProject('Ring', 120, null),
      tracks: [newTrack({ id: 'a', name: 'a', clips: [clip('a1', 1, 2, 4, { followKey: false })] })],
    },
    made = (tail: PartAsked['tail']) => {
      const part = partOf(once, 'Ring', { trackIds: ['a'], clipIds: null, fromBeat: 0, toBeat: 4, tail }, () => true),
        schedule = scheduleOfPart(part, sources);
      return renderPart(
        part,
        schedule,
        buffersFor(schedule, () => soundOf(1)),
        4,
        tail,
      )[0];
    },
    loud = (plane: Float32Array, from: number, to: number) => plane.subarray(from, to).some((value) => Math.abs(value) > 0.01);
  expect([made('wrap').length, made('cut').length]).toEqual([88_200, 88_200]);
  expect(made('keep').length).toBeGreaterThan(130_000);
  expect([loud(made('wrap'), 1000, 40_000), loud(made('cut'), 1000, 40_000)]).toEqual([true, false]);
});
