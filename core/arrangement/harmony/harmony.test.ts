import { emptyProject, newClip, newTrack, type ChordMark, type Clip, type Project } from '../tree';
import { planClip } from '../plan';
import type { LoopSource } from '../fit-request';
import { parseKey, type Key } from '../../theory/key';
import { chordPlanOf } from '../plan';
import { costOfMove } from './chord-plan';
import { chordLengths, harmonyAt, harmonyName, keyAt, linesBetween } from './harmony';
import { heardChords, loopChordAt, statedChords } from './loop-harmony';
import { findChords } from './find-chords';
import { findKeys } from './find-key';
import { mendOf, rubInWords, rubsIn } from './clash-meter';
import { soundingClips } from './sounding-classes';
import { noteMovesFor } from './note-moves';

const key = (text: string): Key => parseKey(text) as Key,
  marks = (...all: [number, string][]): ChordMark[] => all.map(([startBeat, symbol]) => ({ startBeat, symbol })),
  classes = (...pitches: number[]): number[] => Array.from({ length: 12 }, (_, pitch) => (pitches.includes(pitch) ? 1 : 0));

const loop = (changes: Partial<LoopSource> = {}): LoopSource => ({
  loopId: 1,
  kind: 'loop',
  media: 'audio',
  soundSha: 'a',
  soundFrames: 400_000,
  tempoBpm: 120,
  beats: 8,
  key: key('B♭m'),
  pitched: true,
  family: 'bass',
  instrument: 'electric-bass',
  loudnessLufs: -20,
  startFrame: 0,
  onsetFrames: [],
  barBeats: 4,
  harmony: { chords: statedChords(marks([0, 'B♭m'])), isStated: true, bars: [classes(10), classes(10)], line: null },
  ...changes,
});
const clip = (changes: Partial<Clip> & { loopId?: number } = {}): Clip =>
  newClip({ id: 'c', loopId: 1, startBeat: 0, lengthBeats: 16, chordWay: 'roots', ...changes });
const project = (changes: Partial<Project> = {}): Project => ({ ...emptyProject('P', 120, key('Dm')), ...changes });
const moves = (a: Clip, source: LoopSource, piece: Project): [number, number][] =>
  planClip(a, source, piece).map(({ startBeat, fitted }) => [startBeat, fitted.shiftSemitones]);

describe('harmony by beat', () => {
  const piece = project({
    chords: marks([0, 'Dm'], [8, 'F♯m'], [12, 'N.C.']),
    sections: [
      { kind: 'section', id: 'a', name: 'A', startBeat: 0, lengthBeats: 8 },
      { kind: 'section', id: 'b', name: 'B', startBeat: 8, lengthBeats: 8, key: key('Em') },
      { kind: 'section', id: 'c', name: 'C', startBeat: 16, lengthBeats: 8 },
    ],
  });
  test('key and chord that hold', () => {
    expect(harmonyAt(piece, 7.9)).toMatchObject({ key: key('Dm'), symbol: 'Dm', chord: { root: 2 } });
    expect(harmonyAt(piece, 8)).toMatchObject({ key: key('Em'), symbol: 'F♯m' });
    expect(harmonyAt(piece, 13)).toMatchObject({ symbol: null, chord: null });
    // A section that says nothing goes on in the key before it.
    expect(keyAt(piece, 20)).toEqual(key('Em'));
  });
  test('has a name by which it is the same, whatever else a project says', () => {
    expect(harmonyName({ ...piece, name: 'Other', tempoBpm: 90 } as Project)).toBe(harmonyName(piece));
    expect(harmonyName({ ...piece, chords: [] })).not.toBe(harmonyName(piece));
    expect(harmonyName({ ...piece, sections: piece.sections.map((section) => ({ ...section, key: null })) })).not.toBe(harmonyName(piece));
  });
  test('lines at which it changes, and how long chords hold', () => {
    expect(linesBetween(piece, 0, 16)).toEqual([8, 12]);
    expect(chordLengths(piece.chords, 16)).toEqual([8, 4, 4]);
  });
});

describe('chords of a loop', () => {
  const triad = (root: number, minor: boolean, probability = 0.9) => ({ root, minor, probability });
  test('bar by bar; what is unsure goes on as before; two in a bar by their beats', () => {
    expect(
      heardChords(
        [
          { chord: triad(2, true), bass: 38 },
          { chord: triad(7, false, 0.1), bass: 43 },
          { chord: triad(9, true), bass: 45 },
        ],
        [...Array<null>(8).fill(null), triad(9, true), triad(9, true), triad(4, false), triad(4, false)],
        4,
      ).map(({ startBeat, root, third }) => [startBeat, root, third]),
    ).toEqual([
      [0, 2, 'minor'],
      [8, 9, 'minor'],
      [10, 4, 'major'],
    ]);
  });
  test('the one that holds', () => expect(loopChordAt(statedChords(marks([0, 'C'], [4, 'G'])), 5)?.root).toBe(7));
});

describe('a loop follows the chords', () => {
  test('a bass from B♭ minor to D is 8 down, and when the chords go on to F♯ 4 higher: −8 becomes −4 (common practice)', () => {
    const piece = project({ chords: marks([0, 'Dm'], [8, 'F♯m']) });
    // The other way round: an octave under the nearest.
    expect(moves(clip({ shiftSemitones: -12 }), loop(), piece)).toEqual([
      [0, -8],
      [8, -4],
    ]);
  });
  test('roots go to roots where both change; neighbours that are moved alike are one', () => {
    const source = loop({
        key: key('C'),
        family: 'keys',
        harmony: { chords: statedChords(marks([0, 'C'], [4, 'G'])), isStated: true, bars: [], line: null },
      }),
      piece = project({ key: key('C'), chords: marks([0, 'C'], [4, 'F'], [8, 'C'], [12, 'G']) });
    // C→C 0, G→F −2, C→C 0, G→G 0.
    expect(moves(clip(), source, piece)).toEqual([
      [0, 0],
      [4, -2],
      [8, 0],
    ]);
  });
  test('a bass takes the bass of the chord, keys its root', () => {
    const piece = project({ key: key('C'), chords: marks([0, 'C/E']) }),
      source = loop({ key: key('C'), harmony: { chords: statedChords(marks([0, 'C'])), isStated: true, bars: [], line: null } });
    expect(moves(clip(), source, piece)).toEqual([[0, 4]]);
    expect(moves(clip(), { ...source, family: 'keys' }, piece)).toEqual([[0, 0]]);
  });
  test('drums, and what has no chords, stay', () => {
    const piece = project({ chords: marks([0, 'F♯']) });
    expect(moves(clip(), loop({ family: 'drums' }), piece)).toEqual([[0, 0]]);
    expect(moves(clip({ followKey: false }), loop({ harmony: undefined }), piece)).toEqual([[0, 0]]);
  });
  test('a plan settled by hand holds, also in a part that is cut off', () => {
    const byHand = clip({
        followKey: false,
        shiftMarks: [
          { atBeat: 0, semitones: -8 },
          { atBeat: 8, semitones: -4 },
        ],
      }),
      piece = project({ chords: marks([0, 'C']) });
    expect(moves(byHand, loop(), piece)).toEqual([
      [0, -8],
      [8, -4],
    ]);
    expect(moves({ ...byHand, startBeat: 12, lengthBeats: 4, offsetBeats: 12 }, loop(), piece)).toEqual([[12, -4]]);
  });
  test('another third is told', () => {
    const [stretch] = chordPlanOf(clip(), loop(), project({ chords: marks([0, 'B♭']) }));
    expect(stretch).toMatchObject({ isOtherKind: true, to: 'B♭' });
  });
  test('a key that changes at a section moves what follows the key', () => {
    const piece = project({
      key: key('Dm'),
      sections: [{ kind: 'section', id: 'b', name: 'B', startBeat: 8, lengthBeats: 8, key: key('Em') }],
    });
    expect(moves(clip({ chordWay: null }), loop({ key: key('Dm') }), piece)).toEqual([
      [0, 0],
      [8, 2],
    ]);
  });
  test('parts of one clip go over into each other', () => {
    const piece = project({ chords: marks([0, 'Dm'], [8, 'F♯m']) });
    expect(planClip(clip(), loop(), piece).map(({ joins }) => joins)).toEqual([
      { before: false, behind: true },
      { before: true, behind: false },
    ]);
  });
  test.each([
    [0, 0],
    [2, 1],
    [-5, 2],
    [11, 3],
  ])('%i semitones cost grade %i', (semitones, grade) => expect(costOfMove(semitones).grade).toBe(grade));
});

test('a single line goes to the chord note by note; what passes may stay in the key', () => {
  const note = (startSeconds: number, lengthSeconds: number, pitch: number) => ({
      startSeconds,
      lengthSeconds,
      pitch,
      cents: 0,
      strength: 1,
    }),
    source = loop({
      harmony: { chords: [], isStated: false, bars: [], line: [note(0, 0.5, 61), note(0.5, 0.1, 62), note(1, 0.5, 67)] },
    });
  // Over C: C♯ goes down to C, the short D stays, G is of the chord.
  expect(noteMovesFor(source, { startBeat: 0 }, project({ key: key('C'), chords: marks([0, 'C']) }), 0)).toEqual([0, 22050, -1]);
});

describe('what rubs', () => {
  const bassAndKeys = (bass: number[], keys: number[], chords: ChordMark[] = []): [Project, ReadonlyMap<number, LoopSource>] => {
    const sources = new Map([
      [
        1,
        loop({
          key: key('C'),
          harmony: { chords: statedChords(marks([0, 'C'])), isStated: true, bars: [classes(...bass), classes(...bass)], line: null },
        }),
      ],
      [
        2,
        loop({
          loopId: 2,
          family: 'keys',
          key: key('C'),
          harmony: { chords: statedChords(marks([0, 'D'])), isStated: true, bars: [classes(...keys), classes(...keys)], line: null },
        }),
      ],
    ]);
    return [
      project({
        key: key('C'),
        chords,
        tracks: [
          newTrack({ id: 'b', name: 'Bass', clips: [clip({ id: 'bass', lengthBeats: 8, chordWay: null })] }),
          newTrack({ id: 'k', name: 'Keys', clips: [clip({ id: 'keys', loopId: 2, lengthBeats: 8, chordWay: null })] }),
        ],
      }),
      sources,
    ];
  };
  const nameOf = (id: string) => (id === 'bass' ? 'Bass' : 'Keys');
  test('F against F♯, in words, and what mends it', () => {
    const [piece, sources] = bassAndKeys([5], [2, 6, 9]),
      rubs = rubsIn(piece, sources);
    expect(rubs.map((each) => rubInWords(each, piece, nameOf))).toEqual(['F of Bass against F♯ of Keys, bars 1–2']);
    expect(mendOf(rubs[0], piece, sources)).toMatchObject({ gain: expect.any(Number) });
    expect(mendOf(rubs[0], piece, sources)?.gain).toBeGreaterThan(0.5);
  });
  test('what follows the chords does not rub any longer', () => {
    const [piece, sources] = bassAndKeys([0], [2, 6, 9], marks([0, 'C'])),
      [first] = rubsIn(piece, sources),
      mend = first && mendOf(first, piece, sources);
    expect(first).toMatchObject({ clipId: 'keys', otherClipId: null });
    expect(mend?.does).toBe('lets it follow the chords');
  });
  test('notes of one chord never rub', () => {
    // A major seventh: C and B.
    const [piece, sources] = bassAndKeys([0], [4, 7, 11], marks([0, 'Cmaj7']));
    expect(rubsIn(piece, sources)).toEqual([]);
  });
  test('nor do notes that are both of the key where no chord is written', () => {
    const [piece, sources] = bassAndKeys([4], [5, 9, 0]);
    expect(rubsIn(piece, sources)).toEqual([]);
  });
});

test('chords and key are found in what is placed', () => {
  const sources = new Map([
      [1, loop({ key: null, harmony: { chords: [], isStated: false, bars: [classes(2), classes(7)], line: null } })],
      [
        2,
        loop({
          loopId: 2,
          family: 'keys',
          key: null,
          harmony: { chords: [], isStated: false, bars: [classes(2, 5, 9), classes(7, 10, 2)], line: null },
        }),
      ],
    ]),
    piece = project({
      key: null,
      tracks: [
        newTrack({ id: 'b', name: 'Bass', clips: [clip({ id: 'bass', lengthBeats: 8 })] }),
        newTrack({ id: 'k', name: 'Keys', clips: [clip({ id: 'keys', loopId: 2, lengthBeats: 8 })] }),
      ],
    }),
    sounding = soundingClips(piece, sources);
  expect(findChords(sounding, piece, 0, 8, 4).map(({ symbol }) => symbol)).toEqual(['Dm', 'Gm']);
  const keys = findKeys(classes(2, 5, 9, 7, 10), classes(2, 7));
  expect(keys[0].key).toMatchObject({ tonic: 2, mode: 'minor' });
  expect(keys.reduce((sum, { probability }) => sum + probability, 0)).toBeCloseTo(1, 6);
  expect(findKeys(new Array(12).fill(0), new Array(12).fill(0))).toEqual([]);
});
