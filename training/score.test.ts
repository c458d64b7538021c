import { calibrate, keyScore, matchNotes, score, type Said } from './score';
import { drumLoopTruth as truth } from '../test/generators/truth';

test('what has no single key is told from what has one, and is tuned all the same', () => {
  const truths = [
      truth({ file: 'lost', keyStatus: 'none', key: null }),
      truth({ file: 'kept', keyStatus: 'clear', key: { tonic: 0, mode: 'major' } }),
    ],
    answer = (file: string, key: Said['key'], pitched: boolean): Said => ({ file, tempoBpm: null, key, pitched });
  expect(score(truths, [answer('lost', null, true), answer('kept', { tonic: 0, mode: 'major' }, true)])).toMatchObject({
    homeless: 100,
    homelessFalse: 0,
    pitchedF1: 100,
  });
  expect(score(truths, [answer('lost', { tonic: 3, mode: 'minor' }, true), answer('kept', null, true)])).toMatchObject({
    homeless: 0,
    homelessFalse: 100,
    pitchedF1: 100,
  });
  // Untuned is no answer to either.
  expect(score(truths, [answer('lost', null, false), answer('kept', null, false)])).toMatchObject({ homeless: 0, homelessFalse: 0 });
});

test('meters: the usual three by name, all others as unknown', () => {
  const scored = (meter: string, said: string | null) =>
    score([truth({ meter })], [{ file: 'a', tempoBpm: 120, bars: 4, meter: said, meterConfidence: 0.8 }]).meter;
  expect([scored('3/4', '3/4'), scored('3/4', '4/4'), scored('3/4', 'unknown'), scored('3/4', null)]).toEqual([100, 0, 0, 0]);
  expect([scored('5/4', 'unknown'), scored('7/8', 'unknown'), scored('5/4', '4/4')]).toEqual([100, 100, 0]);
  expect(score([truth({})], [{ file: 'a', tempoBpm: 120, bars: 4 }]).meter).toBeNull();
});

test('key score by MIREX: right 1, fifth above 0.5, relative 0.3, parallel 0.2, else 0', () => {
  const c = { tonic: 0, mode: 'major' };
  expect(
    [c, { tonic: 7, mode: 'major' }, { tonic: 9, mode: 'minor' }, { tonic: 0, mode: 'minor' }, { tonic: 5, mode: 'major' }, null].map(
      (said) => keyScore(c, said),
    ),
  ).toEqual([1, 0.5, 0.3, 0.2, 0, 0]);
  expect(keyScore({ tonic: 9, mode: 'minor' }, c)).toBe(0.3);
});

test('tempo: within 0.5 %, within 4 %, and with its octaves (Gouyon et al. 2006)', () => {
  const scores = (tempoBpm: number) => {
    const { tempoExact, accuracy1, accuracy2 } = score([truth({})], [{ file: 'a', tempoBpm, bars: 4 }]);
    return [tempoExact, accuracy1, accuracy2];
  };
  expect(scores(120.5)).toEqual([100, 100, 100]);
  expect(scores(124)).toEqual([0, 100, 100]);
  expect(scores(60)).toEqual([0, 0, 100]);
  expect(scores(90)).toEqual([0, 0, 0]);
});

test('what is missing counts as wrong; pitched or not is an F1', () => {
  expect(score([truth({})], [])).toMatchObject({ tempoExact: 0, bars: 0 });
  const truths = [truth({ file: 'x', keyStatus: 'clear', key: { tonic: 0, mode: 'major' } }), truth({ file: 'y' })];
  expect(
    score(truths, [
      { file: 'x', tempoBpm: 120, key: { tonic: 0, mode: 'major' } },
      { file: 'y', tempoBpm: 120, key: { tonic: 0, mode: 'major' } },
    ]).pitchedF1,
  ).toBeCloseTo(66.7, 1);
});

test('calibration: half right at 0.5 is perfect, all right at 0.6 is 0.4 off', () => {
  expect(
    calibrate([
      { sure: 0.5, right: true },
      { sure: 0.5, right: false },
    ])?.ece,
  ).toBeCloseTo(0);
  expect(calibrate([{ sure: 0.6, right: true }])?.ece).toBeCloseTo(0.4);
  expect(
    calibrate([
      { sure: 0.95, right: false },
      { sure: 0.99, right: true },
    ]),
  ).toMatchObject({ wrongAtNinety: 50, atNinety: 2 });
  expect(calibrate([])).toBeNull();
});

test('notes of a melody: same pitch, begun within 50 ms, each counted once', () => {
  const heard = (startSeconds: number, pitch: number) => ({ startSeconds, lengthSeconds: 0.2, pitch, cents: 0, strength: 1 });
  const melody = [
    [0, 0.5, 60],
    [0.5, 0.5, 62],
    [1, 0.5, 62],
  ] as const;
  expect(matchNotes(melody, [heard(0.04, 60), heard(0.44, 62), heard(0.98, 62), heard(1.02, 62)])).toEqual({ right: 2, said: 4, true: 3 });
  const said = (notes: ReturnType<typeof heard>[] | null) => [{ file: 'a', tempoBpm: 120, detail: { bars: [], melody: notes } }];
  const tune = truth({ melody, family: 'bass', keyStatus: 'clear' });
  expect(score([tune], said([heard(0, 60), heard(0.5, 62), heard(1, 62)])).melody).toBe(100);
  expect(score([tune], said(null))).toMatchObject({ melody: null, melodyFound: 0 });
  expect(score([tune, truth({ file: 'b' })], [...said(null), { ...said([heard(0, 60)])[0], file: 'b' }]).melodyFalse).toBe(100);
});

test('chords by bar: root and third count, bars with two chords do not, and a single line states none', () => {
  const chords = [
      { startBeat: 0, lengthBeats: 4, root: 9, intervals: [0, 3, 7] },
      { startBeat: 4, lengthBeats: 4, root: 5, intervals: [0, 4, 7] },
      { startBeat: 8, lengthBeats: 2, root: 0, intervals: [0, 4, 7] },
      { startBeat: 10, lengthBeats: 2, root: 7, intervals: [0, 4, 7] },
      { startBeat: 12, lengthBeats: 4, root: 7, intervals: [0, 4, 7, 10] },
    ],
    keys = truth({ family: 'keys', keyStatus: 'clear', bars: 4, meter: '4/4', chords }),
    bar = (root: number, minor: boolean) => ({ chord: { root, minor } }),
    said = [
      { file: 'a', tempoBpm: 120, bars: 4, detail: { bars: [bar(9, true), bar(5, true), bar(1, true), bar(7, false)], melody: null } },
    ];
  // Right, wrong by its third, not counted, right.
  expect(score([keys], said).chords).toBeCloseTo((100 * 2) / 3, 6);
  expect(score([{ ...keys, melody: [] }], said).chords).toBeNull();
  expect(score([{ ...keys, family: 'bass' }], said).chords).toBeNull();
});

test('every fact that is shown with how sure it is is held against that', () => {
  const truths = [
      truth({ file: 'a', instrument: 'kit' }),
      truth({ file: 'b', instrument: 'hat', family: 'drums' }),
      truth({ file: 'c', instrument: 'snare', family: 'drums' }),
    ],
    answer = (file: string, instrument: string, bars: number): Said => ({
      file,
      kind: 'loop',
      kindConfidence: 0.95,
      tempoBpm: 120,
      tempoConfidence: 0.6,
      bars,
      beatsConfidence: 0.5,
      meter: '4/4',
      meterConfidence: 0.8,
      family: 'drums',
      familyConfidence: 1,
      instrument,
      instrumentConfidence: 0.9,
    });
  const { instrument, bars, calibration } = score(truths, [answer('a', 'kit', 4), answer('b', 'hats', 4), answer('c', 'kick', 2)]);
  expect([instrument, bars]).toEqual([expect.closeTo(66.7, 1), expect.closeTo(66.7, 1)]);
  expect(Object.entries(calibration).map(([fact, found]) => [fact, found && Number(found.ece.toFixed(3))])).toEqual([
    ['tempo', 0.4],
    ['bars', 0.167],
    ['meter', 0.2],
    ['key', null],
    ['family', 0],
    ['instrument', 0.233],
    ['kind', 0.05],
  ]);
  expect(calibration.instrument).toMatchObject({ atNinety: 3, wrongAtNinety: expect.closeTo(33.3, 1) });
});
