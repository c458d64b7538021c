import { evidence, type Attribute, type Evidence } from '../facts';
import { noTags } from '../../formats/tags/embedded';
import { evidenceFromPath, evidenceStated } from './from-names';
import { fuse } from './fuse';

const of = (path: string, attribute: Attribute): Evidence[] => evidenceFromPath(path).filter((each) => each.attribute === attribute);
const first = (path: string, attribute: Attribute) => of(path, attribute)[0]?.candidates[0];

test('a marked tempo is surer than a bare number, and a bare one among several less sure still', () => {
  const marked = first('Beat 140 bpm.wav', 'tempo'),
    bare = first('Beat 140.wav', 'tempo');
  expect([marked.value, bare.value]).toEqual([140, 140]);
  expect(marked.probability).toBeGreaterThan(bare.probability);
});
test('half and double of what a name says stay possible', () => {
  const values = of('Beat 140 bpm.wav', 'tempo')[0].candidates.map(({ value }) => value);
  expect(values).toEqual(expect.arrayContaining([140, 70, 280]));
});
test('what a source says never sums to more than one', () => {
  for (const path of ['Drums/Kick 120 bpm Am.wav', 'A/90 Bass F.wav', 'Loops/Pad_Cmin_128.wav', '174/Break.wav'])
    for (const each of evidenceFromPath(path))
      expect(each.candidates.reduce((sum, { probability }) => sum + probability, 0)).toBeLessThanOrEqual(1 + 1e-9);
});
test('a letter by itself leaves the mode open', () => {
  const open = of('Keys 120 bpm A.wav', 'key')[0],
    stated = of('Keys 120 bpm Amin.wav', 'key')[0];
  expect(stated.candidates[0]).toMatchObject({ value: { tonic: 9, mode: 'minor' } });
  if (open) {
    expect(new Set(open.candidates.map(({ value }) => (value as { tonic: number }).tonic))).toEqual(new Set([9]));
    expect(open.candidates[0].probability).toBeLessThan(stated.candidates[0].probability);
  }
});
test('folders speak too, and say where they were read', () => {
  const folder = of('Pack/120 bpm/Kick.wav', 'tempo')[0];
  expect(folder).toMatchObject({ source: 'folder', reason: expect.stringContaining('folder says 120') });
});
test('a folder called after the family does not argue with the instrument in the name', () => {
  const both = of('Pack/Drums/Kick 01.wav', 'instrument');
  expect(both.map(({ source }) => source)).toEqual(['file-name']);
});
test('the pack’s own name says little of what is in it, and nothing when it stands in front of the file’s', () => {
  expect(
    of('Quiet Choir/Loops/QuietChoir_Drums_11.wav', 'instrument').map(({ source, candidates }) => [source, candidates[0].value]),
  ).toEqual([
    ['file-name', 'kit'],
    ['folder', 'choir'],
  ]);
  // A folder that is called like its files is no pack; what it says is not lost.
  expect(first('Electric Piano/Dry/Electric Piano 02.wav', 'instrument')).toMatchObject({ value: 'electric-piano' });
  const all = (path: string) => of(path, 'instrument')[0].candidates.reduce((sum, { probability }) => sum + probability, 0);
  expect(all('Quiet Choir/Loops/11.wav')).toBeCloseTo(all('Choir/11.wav') / 2, 9);
});
test('the nearest folder with a word on it speaks', () => {
  expect(first('Pack/Choir/Drum Loops/07.wav', 'instrument')).toMatchObject({ value: 'kit' });
  expect(first('Pack/Choir/Extra/07.wav', 'instrument')).toMatchObject({ value: 'choir' });
  expect(first('Pack/90 bpm/120 bpm/07.wav', 'tempo')).toMatchObject({ value: 120 });
});
test('any guitar is a guitar: the sound says which; a nylon guitar is one', () => {
  const heard = evidence<'instrument'>(
    'instrument',
    'sound',
    [
      { value: 'electric-guitar', probability: 0.7 },
      { value: 'acoustic-guitar', probability: 0.3 },
    ],
    'heard',
  );
  expect(fuse('instrument', [...of('Guitar 02.wav', 'instrument'), heard])?.value).toBe('electric-guitar');
  expect(fuse('instrument', [...of('Nylon Guitar 02.wav', 'instrument'), heard])).toMatchObject({ value: 'acoustic-guitar' });
});
test('a folder of loops may hold a single sound: the sound’s own word decides; a file that is named a loop is one', () => {
  const heard = (probability: number) =>
    evidence<'kind'>(
      'kind',
      'sound',
      [
        { value: 'one-shot', probability },
        { value: 'loop', probability: 1 - probability },
      ],
      'heard',
    );
  expect(fuse('kind', [...of('Pack/Loops/Horn 26.wav', 'kind'), heard(0.9)])?.value).toBe('one-shot');
  expect(fuse('kind', [...of('Pack/Loops/Horn 26.wav', 'kind'), heard(0.6)])?.value).toBe('loop');
  expect(of('Pack/Horn loop.wav', 'kind')[0].candidates).toHaveLength(1);
});
describe('a tempo in the name', () => {
  const heard = (value: 'loop' | 'full-mix' | 'one-shot', probability: number) =>
    evidence<'kind'>(
      'kind',
      'sound',
      [
        { value, probability },
        { value: value === 'one-shot' ? 'loop' : 'one-shot', probability: 0.98 - probability },
      ],
      'heard',
    );
  test('speaks for what goes round, where the sound leaves it open', () => {
    expect(fuse('kind', [...of('Pack/Violin 132 bpm.wav', 'kind'), heard('one-shot', 0.6)])?.value).toBe('loop');
    expect(fuse('kind', [...of('Pack/Violin 132 bpm.wav', 'kind'), heard('one-shot', 0.97)])?.value).toBe('one-shot');
  });
  test('says nothing between a loop and a mix', () =>
    expect(fuse('kind', [...of('Pack/Pier 132 bpm.wav', 'kind'), heard('full-mix', 0.7)])?.value).toBe('full-mix'));
  test('does not argue with a name that says what it is, nor does a folder of that tempo speak', () => {
    expect(of('Pack/Stab One Shot 132 bpm.wav', 'kind').map(({ candidates }) => candidates[0].value)).toEqual(['one-shot']);
    expect(of('132 bpm/Violin.wav', 'kind')).toEqual([]);
  });
  test('above what can be played is read when it is marked: its half stays possible', () => {
    const values = of('Pack/Pluck 322 BPM.wav', 'tempo')[0].candidates.map(({ value }) => value);
    expect(values).toEqual(expect.arrayContaining([322, 161]));
    expect(of('Pack/Pluck 322.wav', 'tempo')).toEqual([]);
  });
});
test('a name that says nothing gives nothing', () => {
  expect(evidenceFromPath('')).toEqual([]);
  expect(evidenceFromPath('Pack/xyzzy.wav').filter(({ source }) => source === 'file-name')).toEqual([]);
});
test.each([
  ['Crash 16 bright.wav', 'crash'],
  ['Ride Bell 02.wav', 'ride'],
  ['Bass Drum soft.wav', 'kick'],
])('%s is called what it is, and not the nearest thing that sounds alike', (path, expected) => {
  const heard = evidence<'instrument'>(
    'instrument',
    'sound',
    [
      { value: expected === 'kick' ? 'electric-bass' : 'hats', probability: 0.8 },
      { value: 'snare', probability: 0.2 },
    ],
    'heard',
  );
  expect(fuse('instrument', [...of(path, 'instrument'), heard])?.value).toBe(expected);
});

test('a name tells which of a kin it is, the sound which kin: they speak for each other', () => {
  const bell = (sure: number) =>
      evidence<'instrument'>(
        'instrument',
        'sound',
        [
          { value: 'bells', probability: sure },
          { value: 'piano', probability: 1 - sure },
        ],
        'heard',
      ),
    named = (sure: number) => fuse('instrument', [...of('Spieluhr 3.wav', 'instrument'), bell(sure)]);
  expect(named(0.9)?.value).toBe('music-box');
  expect(named(0.9)?.confidence).toBeGreaterThan(0.97);
  expect(named(0.9)?.confidence).toBeGreaterThan(named(0.3)?.confidence ?? 1);
  // The sound alone says no more than it can tell.
  expect(fuse('instrument', [bell(0.9)])?.value).toBe('bells');
});
test('a title inside the file speaks where its name is silent, and not a second time', () => {
  const of = (title: string, path: string) =>
    evidenceStated({ ...noTags, title }, path).map(({ attribute, source }) => `${attribute} by ${source}`);
  expect(of('Nylon guitar 96 bpm Dm', 'Pack/0001.wav')).toEqual(['tempo by tag', 'key by tag', 'instrument by tag']);
  expect(of('Nylon guitar 96 bpm Dm', 'Pack/Nylon 98 bpm.wav')).toEqual([
    'tempo by file-name',
    'kind by file-name',
    'instrument by file-name',
    'key by tag',
  ]);
});
test('a root that a sampler’s chunk marks names a pitch, faintly, and no mode; a key that is told outranks it', () => {
  const keys = evidenceStated({ ...noTags, unityNote: 45 }, '').filter(({ attribute }) => attribute === 'key');
  expect(keys).toHaveLength(1);
  expect(keys[0].candidates.map(({ value }) => value)).toEqual([
    { tonic: 9, mode: 'minor' },
    { tonic: 9, mode: 'major' },
  ]);
  expect(keys[0].candidates.every(({ probability }) => probability < 0.3)).toBe(true);
  const told = evidenceStated({ ...noTags, unityNote: 45, key: { tonic: 2, mode: 'minor' } }, '').filter(
    ({ attribute }) => attribute === 'key',
  );
  expect(told.map(({ candidates }) => candidates[0].value)).toEqual([{ tonic: 2, mode: 'minor' }]);
});
