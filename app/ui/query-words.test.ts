import { queryInWords, rangeInWords } from './query-words';

describe('a search as a sentence', () => {
  test('says its words, its facets, its tempo and its order', () => {
    expect(queryInWords('q=warm+shaker&tempo=90-100&sort=tempo')).toBe('warm shaker · at 90–100 · by tempo');
  });

  test('says nothing where nothing is asked', () => {
    expect(queryInWords('')).toBe('');
  });
});

describe('a range as words', () => {
  test('brightness is read as a frequency, from octaves over 50 Hz', () => {
    expect(rangeInWords('brightness', { from: 1, to: 5 })).toBe('brightness 100 Hz–1.6 kHz');
  });

  test('a stretch is read as percent, slower with a minus', () => {
    expect(rangeInWords('stretch', { from: -1, to: 0 })).toBe('stretched −50 % to +0 %');
  });

  test('one step of shift is not a range', () => {
    expect(rangeInWords('shift', { from: 2, to: 2 })).toBe('moved up 2');
    expect(rangeInWords('shift', { from: -1, to: 2 })).toBe('moved down 1 to up 2');
  });
});
