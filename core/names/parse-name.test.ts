import { keyName } from '../theory/key';
import { readName, titleFromFileName, withoutPack } from './parse-name';
import { isSystemFile, safePath } from './safe-path';

// Spellings as vendors use them, by common practice; every name is invented.
test.each<[string, number | null, string | null, string | null]>([
  ['TRK_LanternWalk_96_A1', 96, null, null],
  ['LLB_BassFingered_01_96bpm_Fm', 96, 'F minor', 'electric-bass'],
  ['Piano Chords 01 - F minor - 96 bpm', 96, 'F minor', 'piano'],
  ['bpm 124 Shaker', 124, null, 'shaker'],
  ['Shaker Vol 90', null, null, 'shaker'],
  ['808 Kick', null, null, 'kick'],
  ['WWG Nylon Guitar 84 Am A', 84, 'A minor', 'acoustic-guitar'],
  ['acid bass loop D#m', null, 'E♭ minor', 'synth-bass'],
  ['Shaker 62 A', 62, null, 'shaker'],
  ['NPB Flute 110 G', 110, 'G major', 'flute'],
  ['Beat 124.6 bpm', 124.6, null, 'kit'],
  ['Loop_01_Main_DrumLoop_241.5', 241.5, null, 'kit'],
  ['AJ_117.53_Trumpet_Soft_165', 117.53, null, 'trumpet'],
  ['DrumLoop 07', null, null, 'kit'],
  ['Waiting Room (no. 12)', null, null, null],
  ['Electric Piano 02', null, null, 'electric-piano'],
  ['Upright Bass_2', null, null, 'upright-bass'],
])('%s', (name, tempoBpm, key, instrument) => {
  const reading = readName(name);
  expect([reading.tempoBpm, reading.key ? keyName(reading.key) : null, reading.instrument?.id ?? null]).toEqual([
    tempoBpm,
    key,
    instrument,
  ]);
});

test('bars, kind, meter', () => {
  expect(readName('Groove 4 bars')).toMatchObject({ bars: 4, kind: 'loop' });
  expect(readName('One Shots')).toMatchObject({ kind: 'one-shot' });
  expect(readName('Riser 03')).toMatchObject({ kind: 'phrase' });
  expect(readName('Demo Mix')).toMatchObject({ kind: 'full-mix' });
  expect(readName('Last Boat waltz')).toMatchObject({ meter: '3/4' });
  expect(readName('')).toMatchObject({ tempoBpm: null, key: null, instrument: null });
});

test.each([
  ['TRK_LanternWalk_96_A1.wav', 'Lantern Walk A1'],
  ['LLB_BassFingered_05_124bpm_Dm.aiff', 'Bass Fingered 05'],
  ['96.wav', '96'],
  ['Pad Kelp Fm.ogg', 'Pad Kelp'],
])('%s is titled %s', (file, title) => expect(titleFromFileName(file)).toBe(title));
test('a title does not repeat the pack', () => {
  expect(titleFromFileName('HollowOak69_Mix_Abmin_112_BPM.ogg', 'Hollow Oak')).toBe('Mix');
  expect(titleFromFileName('Hollow Oak.wav', 'Hollow Oak')).toBe('Hollow Oak');
});
test('of several numbers the others are kept; a letter without a mode leaves it open', () => {
  expect(readName('QH_99_Choir Pad_Groove_106')).toMatchObject({ tempoBpm: 106, otherTempos: [99], tempoIsMarked: false });
  expect(readName('171 66 BPM Soft Trumpet')).toMatchObject({ tempoBpm: 66, otherTempos: [], tempoIsMarked: true });
  expect(readName('Bass Bb')).toMatchObject({ key: { tonic: 10, mode: 'major' }, keyIsMarked: false, keyIsAltered: true });
  expect(readName('Bass Bbm')).toMatchObject({ key: { tonic: 10, mode: 'minor' }, keyIsMarked: true });
});

test.each<[string, string | null, string | null]>([
  ['Nylon Guitar 02', 'acoustic-guitar', 'own'],
  ['Guitar 02', 'acoustic-guitar', 'loose'],
  ['Fingered Bass 07', 'electric-bass', 'own'],
  ['Bass 07', 'electric-bass', 'loose'],
  // A word of its own stands before one that many have, wherever they stand.
  ['Chords Strings', 'strings', 'own'],
  ['Bass Kick', 'kick', 'own'],
  ['Drums 01', 'kit', 'loose'],
  ['Full Drums', 'kit', 'loose'],
  ['Timbales', 'timbales', 'own'],
  ['Night Full 120', 'full-mix', 'hint'],
  ['Groove Mix 120', 'full-mix', 'hint'],
  ['Groove 120', 'kit', 'hint'],
  ['Organ Groove Mix', 'organ', 'own'],
  ['Mundharmonika 90', 'harmonica', 'own'],
  ['Guitarra Eléctrica 100', 'acoustic-guitar', 'loose'],
  ['Flûte lente', 'flute', 'own'],
  ['Kuhglocke', 'cowbell', 'own'],
  ['Platillos', 'cymbals', 'own'],
  ['Violão 88', 'acoustic-guitar', 'own'],
  ['Finger Snaps', 'snaps', 'own'],
  ['Pedal Steel', 'pedal-steel', 'own'],
  ['Vocoder Phrase', 'vocoder', 'own'],
  ['Ferry', null, null],
])('%s is called %s, by a word that is %s', (name, id, word) => {
  const { instrument, instrumentWord } = readName(name);
  expect([instrument?.id ?? null, instrumentWord]).toEqual([id, word]);
});

test.each([
  ['SaltChoir_Drums_120', 'Salt Choir', 'Drums_120'],
  ['SALT & CHOIR - Drums', 'Salt and Choir', 'SALT & CHOIR - Drums'],
  ['Salt_&_Choir07_Drums', 'Salt & Choir', 'Drums'],
  ['salt choir', 'Salt Choir', 'salt choir'],
  ['Saltwater Drums', 'Salt', 'Saltwater Drums'],
  ['Kick 01', 'Ki', 'Kick 01'],
  ['Kick 01', '', 'Kick 01'],
])('%s of the pack %s is read as %s', (name, pack, read) => expect(withoutPack(name, pack)).toBe(read));

describe('paths from archives (CWE-22)', () => {
  test.each(['../x.wav', 'a/../../x.wav', '..\\x.wav', '', '/', '.'])('%s is refused', (path) => expect(safePath(path)).toBeNull());
  test.each([
    ['/etc/x.wav', 'etc/x.wav'],
    ['C:\\Loops\\x.wav', 'Loops/x.wav'],
    ['a//b/./c.wav', 'a/b/c.wav'],
    ['a\u0000b.wav', 'ab.wav'],
  ])('%s becomes %s', (path, safe) => expect(safePath(path)).toBe(safe));
  test('files of operating systems', () =>
    expect(['__MACOSX/._a.wav', 'x/.DS_Store', 'Thumbs.db', 'Loops/Kick.wav'].map(isSystemFile)).toEqual([true, true, true, false]));
});

test.each([
  ['___.wav', '___'],
  ['   .wav', '.wav'],
  ['.wav', '.wav'],
])('a file called %p still has a title', (name, title) => expect(titleFromFileName(name)).toBe(title));
test('a title is no longer than what can be kept, and no letter of it is halved', () => {
  expect(titleFromFileName(`${'a'.repeat(600)}.wav`)).toHaveLength(300);
  expect(titleFromFileName(`${'a'.repeat(299)}🥁🥁.wav`)).toBe(`A${'a'.repeat(298)}`);
});
