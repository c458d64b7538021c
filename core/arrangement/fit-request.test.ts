import { chooseStretchMode, describeFit, fitKey, fitLoop, landingFrames, lands, type LoopSource } from './fit-request';
import { keptOverrides, noOverrides } from './fit-settings';

const bass: LoopSource = {
  loopId: 1,
  kind: 'loop',
  media: 'audio',
  soundSha: 's',
  soundFrames: 400000,
  tempoBpm: 120,
  beats: 16,
  key: { tonic: 0, mode: 'minor' },
  pitched: true,
  family: 'bass',
  instrument: 'electric-bass',
  loudnessLufs: -14,
  startFrame: 1000,
  onsetFrames: [1000, 45100, 200000],
  barBeats: 4,
};
const room = { tempoBpm: 120, key: { tonic: 2, mode: 'minor' as const }, followTempo: true, followKey: true };

describe('the stretchMode', () => {
  test.each([
    ['drums', false, 'percussive'],
    ['drums', true, 'mixed'],
    ['percussion', true, 'percussive'],
    ['mix', true, 'mixed'],
    ['voice', true, 'voice'],
    ['voice', false, 'percussive'],
    ['keys', true, 'tonal'],
    ['fx', null, 'percussive'],
  ] as const)('of %s, pitched %s, is %s', (family, pitched, stretchMode) =>
    expect(chooseStretchMode({ family, pitched })).toBe(stretchMode),
  );
  test('a loop’s people outrank its facts, and a clip outranks them', () => {
    const handled = { ...bass, fitDefaults: { stretchMode: 'voice' as const } };
    expect(fitLoop(handled, room).request.stretchMode).toBe('voice');
    expect(fitLoop(handled, { ...room, overrides: { stretchMode: 'plain' } }).request.stretchMode).toBe('plain');
  });
});

test('faint hits on a sixteenth are cut at where hits are cut at, and nowhere else', () => {
  // A sixteenth at 120 is 5,512.5 frames; bar 1 begins at frame 1,000.
  const struck = { ...bass, family: 'drums' as const, pitched: false, faintFrames: [1000 + 16537, 1000 + 20000, 900] };
  expect(fitLoop(struck, room).request.onsetFrames).toEqual([0, 16537, 44100, 199000]);
  expect(fitLoop({ ...struck, faintFrames: undefined }, room).request.onsetFrames).toEqual([0, 44100, 199000]);
  expect(fitLoop({ ...struck, pitched: true }, room).request.onsetFrames).toEqual([0, 44100, 199000]);
});

test('nudges add to what following the key asks for, cents among them (common practice: C to D is +2)', () => {
  expect(fitLoop(bass, room).shiftSemitones).toBe(2);
  expect(fitLoop(bass, { ...room, overrides: { shiftSemitones: -12 } }).shiftSemitones).toBe(-10);
  expect(fitLoop(bass, { ...room, overrides: { shiftSemitones: 0.25 } }).shiftSemitones).toBe(2.25);
  expect(describeFit(fitLoop(bass, { ...room, overrides: { shiftSemitones: 0.25 } }))).toBe('no stretch, up 2.25');
});

test('twice as fast takes half the beats; a tape takes no shift', () => {
  expect(fitLoop(bass, { ...room, overrides: { speedRatio: 2 } }).cycleBeats).toBe(8);
  expect(fitLoop(bass, { ...room, overrides: { speedRatio: 0.5 } }).cycleBeats).toBe(32);
  expect(fitLoop(bass, { ...room, overrides: { stretchMode: 'plain' } }).shiftSemitones).toBe(0);
  expect(fitLoop(bass, { ...room, followTempo: false, overrides: { speedRatio: 2 } }).cycleFrames).toBeCloseTo(8 * 22050, 6);
});

test('the first bar alone: a quarter of the cycle, cut and not wrapped, with the hits that are in it', () => {
  const { request, cycleBeats } = fitLoop(bass, { ...room, overrides: { firstBars: 1 } });
  expect(cycleBeats).toBe(4);
  expect(request.sourceFrames).toBe(88200);
  expect(request.onsetFrames).toEqual([0, 44100]);
  expect(request.tail).toBe('cut');
  expect(fitLoop({ ...bass, barBeats: 3 }, { ...room, overrides: { firstBars: 1 } }).cycleBeats).toBe(3);
  expect(fitLoop(bass, { ...room, overrides: { firstBars: 99 } }).cycleBeats).toBe(16);
});

test('a wandering player is drawn onto the grid by the strength asked for', () => {
  const beatFrames = Array.from({ length: 17 }, (_, beat) => 1000 + beat * 22050 + (beat % 2) * 400),
    wandering = { ...bass, beatFrames };
  expect(fitLoop(wandering, room).request.markFrames).toEqual([]);
  expect(fitLoop(wandering, { ...room, overrides: { gridStrength: 1 } }).request.markFrames?.slice(0, 3)).toEqual([0, 22450, 44100]);
  expect(fitLoop(wandering, { ...room, overrides: { gridStrength: 0.5 } }).request.markFrames?.[1]).toBe(22250);
  expect(fitLoop({ ...wandering, fitDefaults: { gridStrength: 1 } }, room).request.markFrames).toHaveLength(16);
});

test('whatever changes the sound changes the buffer’s name', () => {
  const names = [
    {},
    { shiftSemitones: 1 },
    { stretchMode: 'voice' as const },
    { stretchMode: 'voice' as const, formantSemitones: 3 },
    { reverse: true },
    { firstBars: 2 },
    { speedRatio: 2 },
  ].map((overrides) => fitKey(fitLoop(bass, { ...room, overrides }).request));
  expect(new Set(names).size).toBe(names.length);
  expect(fitKey(fitLoop({ ...bass, fitDefaults: { tail: 'cut' } }, room).request)).not.toBe(names[0]);
  // A loop whose hits were heard anew must not sound as before.
  expect(fitKey(fitLoop({ ...bass, onsetFrames: [0, 22050] }, room).request)).not.toBe(names[0]);
  expect(fitKey(fitLoop({ ...bass, onsetFrames: [0, 22051] }, room).request)).not.toBe(
    fitKey(fitLoop({ ...bass, onsetFrames: [0, 22050] }, room).request),
  );
});

test('a clip keeps only what differs from leaving a loop alone', () => {
  expect(keptOverrides(noOverrides)).toEqual({});
  expect(keptOverrides({ ...noOverrides, reverse: true, shiftSemitones: 5, firstBars: 1 })).toEqual({ reverse: true, firstBars: 1 });
});

describe('where a sound lands', () => {
  const once = (changes: Partial<LoopSource> = {}): LoopSource => ({
      ...bass,
      kind: 'one-shot',
      instrument: 'riser',
      beats: null,
      tempoBpm: null,
      key: null,
      soundFrames: 88_200,
      ...changes,
    }),
    landed = (loop: LoopSource, overrides = {}) =>
      landingFrames(loop, fitLoop(loop, { tempoBpm: 120, key: null, followTempo: true, followKey: true, overrides }));
  test('is said of what rises and what strikes alone, and of no loop', () => {
    expect(lands(once())).toBe(true);
    expect(lands(once({ instrument: 'impact' }))).toBe(true);
    expect(lands(once({ instrument: 'piano' }))).toBe(false);
    expect(lands(once({ kind: 'loop' }))).toBe(false);
  });
  test.each<[string, LoopSource, object, number | null]>([
    ['nothing known: a riser at its end', once(), {}, 88_200],
    ['nothing known: an impact at its start', once({ instrument: 'impact' }), {}, 0],
    ['where it was heard', once({ landingFrame: 66_150 }), {}, 66_150],
    ['at half the speed, twice as far in', once({ landingFrame: 66_150 }), { speedRatio: 0.5 }, 132_300],
    ['on a tape an octave up, half as far', once({ landingFrame: 66_150 }), { shiftSemitones: 12, stretchMode: 'plain' }, 33_075],
    ['backwards, from the other end', once({ landingFrame: 66_150 }), { reverse: true }, 22_050],
    ['behind the sound there is nothing', once({ landingFrame: 99_999 }), {}, 88_200],
    ['a piano begins where it begins', once({ instrument: 'piano', landingFrame: 500 }), {}, null],
  ])('%s', (_, loop, overrides, frame) => expect(landed(loop, overrides)).toBe(frame));
});

test('a phrase whose tempo a person gave follows the project; a one-shot never does', () => {
  const phrase = { ...bass, kind: 'phrase' as const, beats: null, tempoBpm: 100, soundFrames: 100_000 },
    at = (tempoBpm: number, source = phrase as LoopSource, followTempo = true) =>
      fitLoop(source, { tempoBpm, key: null, followTempo, followKey: false });
  expect(at(125).request).toMatchObject({ kind: 'once', targetFrames: 80_000 });
  expect(at(125).speedPercent).toBeCloseTo(25, 6);
  expect(at(200).request.targetFrames).toBe(100_000); // read as double time
  expect(at(125, phrase, false).request.targetFrames).toBe(100_000);
  expect(at(125, { ...phrase, tempoBpm: null }).request.targetFrames).toBe(100_000);
  expect(at(125, { ...phrase, kind: 'one-shot' }).request.targetFrames).toBe(100_000);
  expect(describeFit(at(125, { ...phrase, tempoBpm: null }))).toBe('own length, same pitch');
});
