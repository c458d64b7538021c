import { Chance } from './chance';
import { composePiece } from './compose';
import { withOddMeter } from './odd-meter';
import { pieceSeconds, quartersPerBar, type Piece } from './piece';

const inFour = (piece: Piece): boolean => piece.isLoop && piece.meter === '4/4' && piece.style !== 'fill';
const composed = Array.from({ length: 400 }, (_, seed) => composePiece(seed, 0.1)),
  pieces = composed.map((kept, seed) => ({ kept, odd: withOddMeter(kept, new Chance(seed)) })),
  turned = pieces.filter(({ kept, odd }) => odd !== kept);

test('loops in four come to bars of five and seven of every kind, all others stay as they are', () => {
  expect(new Set(turned.map(({ odd }) => odd.meter))).toEqual(new Set(['5/4', '7/4', '7/8', '5/8']));
  expect(turned.length).toBeGreaterThan(150);
  for (const { kept, odd } of pieces) if (!inFour(kept)) expect(odd).toBe(kept);
});
test('every note lies in its bars, at least two of them come round, and nothing is longer than material may be', () => {
  for (const { odd } of turned) {
    const end = odd.bars * quartersPerBar(odd.meter);
    expect(odd.bars).toBeGreaterThanOrEqual(2);
    if (odd.bars > 2) expect(pieceSeconds(odd)).toBeLessThanOrEqual(24 + 1e-6);
    const notes = odd.parts.flatMap((part) => part.notes);
    expect(notes.filter(({ startBeat, lengthBeats }) => !(startBeat >= 0 && startBeat < end && lengthBeats > 0))).toEqual([]);
  }
});
test('what comes round in four comes round in the new bar', () => {
  const steady: Piece = {
    ...composed.find(inFour)!,
    bars: 4,
    tempoBpm: 120,
    parts: [
      {
        instrument: 'kick',
        gain: 1,
        notes: Array.from({ length: 4 }, (_, bar) => ({ startBeat: bar * 4, lengthBeats: 0.2, pitch: 36, velocity: 100, channel: 9 })),
      },
    ],
  };
  for (let seed = 0; seed < 30; seed++) {
    const odd = withOddMeter(steady, new Chance(seed)),
      bar = quartersPerBar(odd.meter),
      starts = odd.parts[0].notes.map(({ startBeat }) => startBeat);
    for (let k = 0; k < odd.bars; k++) expect(starts).toContain(k * bar);
    expect(new Set(starts.map((start) => (start % bar).toFixed(3))).size).toBe(starts.length / odd.bars);
  }
});
