import { expect } from '@playwright/test';
import type { Edit } from '../../core/arrangement/edit';
import type { Pattern } from '../../core/arrangement/pattern/pattern';
import { newClip, newClipOf, newTrack, type Clip } from '../../core/arrangement/tree';
import { mixdownFrom } from './mixdown';
import { editBy, layPiece, levelsOf, loopFor, playFrom } from './piece';
import { comeIn, rms, startTap, test, toDb, waitForFits } from './support';

const tempoBpm = 132,
  bars = 6;

/** A pattern of one bar that plays these notes, each a quarter of a bar after the one before. */
const patternOf = (id: string, isDrums: boolean, pitches: readonly number[], instrument: string | null): Pattern => ({
  kind: 'pattern',
  id,
  name: id,
  lengthBeats: 4,
  notes: pitches.map((pitch, k) => ({ id: `${id}-${k}`, startBeat: k, lengthBeats: 0.8, pitch, velocity: 90 })),
  isDrums,
  instrument,
  key: isDrums ? null : { tonic: 0, mode: 'major' },
  chords: [],
  fromLoopId: null,
});

test('of all that a piece can hold, what is played is what is mixed down, and each track is in it', { tag: '@alone' }, async ({ page }) => {
  test.slow();
  await comeIn(page);
  const loop = async (words: string) => (await loopFor(page, words)).id,
    [drums, bass, piano, shaker, keys] = [
      await loop('Piston A1'),
      await loop('Bass Fingered 05'),
      await loop('Piano Chords 01'),
      await loop('Shaker 62 A'),
      await loop('Electric Piano 01'),
    ],
    of = (loopId: number, startBar: number, lengthBars: number, said: Partial<Clip> = {}) =>
      newClip({ id: '', loopId, startBeat: (startBar - 1) * 4, lengthBeats: lengthBars * 4, ...said }),
    plays = (patternId: string, startBar: number, lengthBars: number, said: Partial<Clip> = {}) =>
      newClipOf({ kind: 'notes', patternId }, { id: '', startBeat: (startBar - 1) * 4, lengthBeats: lengthBars * 4, ...said });
  const pieces: [string, Partial<Parameters<typeof newTrack>[0]>, Clip[]][] = [
    // Cut with a gap, from the middle of it on, and softer.
    ['Drums', {}, [of(drums, 1, 2), of(drums, 4, 2, { offsetBeats: 6.5, gainDb: -5 }), of(drums, 6, 0.5, { muted: true })]],
    // Up and down in pitch, one part half as fast and one backwards.
    [
      'Bass',
      { gainDb: -3 },
      [
        of(bass, 1, 1.5, { shiftSemitones: -3 }),
        of(bass, 2.5, 1.5, { overrides: { speedRatio: 0.5 } }),
        of(bass, 4, 3, { overrides: { reverse: true }, fadeInBeats: 1 }),
      ],
    ],
    // With the chords by its roots; as it is; and fading over bars that two clips share.
    [
      'Piano',
      { pan: 0.7 },
      [of(piano, 1, 3, { chordWay: 'roots' }), of(piano, 4, 2, { followKey: false, fadeOutBeats: 4 }), of(piano, 5, 2, { fadeInBeats: 4 })],
    ],
    // Not in the tempo of the piece, and only its first bar over and over.
    ['Shaker', { pan: -1 }, [of(shaker, 1, 3, { overrides: { firstBars: 1 } }), of(shaker, 4, 2, { followTempo: false })]],
    // Notes of the library by another instrument, note by note over the chords.
    ['Keys', { gainDb: 2 }, [of(keys, 2, 4, { chordWay: 'notes', overrides: { instrument: 'organ' } })]],
    ['Own drums', {}, [plays('beat', 1, 6, { offsetBeats: 1 })]],
    ['Own notes', { pan: -0.4 }, [plays('line', 1, 3, { chordWay: 'roots' }), plays('line', 4, 3, { shiftSemitones: 5 })]],
    // What is not heard: muted, and set aside.
    ['Muted', { muted: true }, [of(drums, 1, 6)]],
    ['Aside', { setAside: true }, [of(bass, 1, 6)]],
  ];
  const edits: Edit[] = [
    { kind: 'add-pattern', pattern: patternOf('beat', true, [36, 38, 42, 56], null) },
    { kind: 'add-pattern', pattern: patternOf('line', false, [60, 64, 67, 72], 'organ') },
    {
      kind: 'set-chords',
      chords: [
        { startBeat: 0, symbol: 'Dm' },
        { startBeat: 8, symbol: 'Gm' },
        { startBeat: 16, symbol: 'A7' },
      ],
    },
    { kind: 'set-project', changes: { masterGainDb: -4 } },
    {
      kind: 'add-section',
      section: { kind: 'section', id: 'up', name: 'Up', startBeat: 12, lengthBeats: 12, key: { tonic: 4, mode: 'minor' } },
    },
    ...pieces.map(([name, said, clips], index): Edit => ({
      kind: 'add-track',
      index,
      track: newTrack({ id: `track-${index}`, name, ...said, clips: clips.map((clip, k) => ({ ...clip, id: `clip-${index}-${k}` })) }),
    })),
  ];
  await layPiece(page, { name: `As mixed down ${Date.now()}`, tempoBpm, key: '2m' }, edits);
  await waitForFits(page);
  await startTap(page);
  const heard = await playFrom(page, 0, bars * 4, tempoBpm),
    mixed = await mixdownFrom(page, 0, bars * 4, tempoBpm),
    // Bar by bar, so that a short part that is off is not lost in the rest.
    left = heard.map((plane, side) =>
      levelsOf(
        plane.map((value, i) => value - mixed[side][i]),
        bars,
      ),
    ),
    whole = Math.max(toDb(rms(heard[0])), toDb(rms(heard[1]))),
    worst = Math.max(...left.flat()) - whole;
  test.info().annotations.push({ type: 'what is played without what is mixed down, dB', description: worst.toFixed(1) });
  expect(whole).toBeGreaterThan(-40);
  expect(worst).toBeLessThan(-60);
  // No track is so soft that it could be missing from one of the two.
  for (const [index, [name]] of pieces.slice(0, 7).entries()) {
    await editBy(
      page,
      pieces.map((_, k) => ({ kind: 'set-track', trackId: `track-${k}`, changes: { soloed: k === index } })),
    );
    const [left, right] = await mixdownFrom(page, 0, bars * 4, tempoBpm);
    expect(Math.max(toDb(rms(left)), toDb(rms(right))), name).toBeGreaterThan(-60);
  }
});
