import { model } from '../analysis/learned/models';
import { instrumentById, instruments, instrumentsHeard, soundOf } from './instruments';

test('what only a name tells sounds like something that is told by sound', () => {
  for (const { id, soundsAs } of instruments) {
    expect([id, instrumentById(soundOf(id))?.soundsAs]).toEqual([id, null]);
    if (soundsAs !== null) expect(soundOf(id)).toBe(soundsAs);
  }
});
test('the networks were taught nothing but instruments that are told by sound, and nearly all of those', () => {
  const { labels } = model('instrument'),
    heard = instrumentsHeard.map(({ id }) => id);
  expect(labels.filter((label) => !heard.includes(label))).toEqual([]);
  // Samples of cymbals by themselves came after them.
  expect(heard.filter((id) => !labels.includes(id))).toEqual(['cymbals']);
});
test('no two instruments share an id or a label', () => {
  expect(new Set(instruments.map(({ id }) => id)).size).toBe(instruments.length);
  expect(new Set(instruments.map(({ label }) => label)).size).toBe(instruments.length);
});
test('an instrument’s own label names it, unless that says no more than its family', () => {
  const lost = instruments
    .filter(({ label, id }) => instruments.find(({ words }) => words.test(label.toLowerCase()))?.id !== id)
    .map(({ id }) => id);
  // Labels of several at once, which no name has.
  expect(lost.sort()).toEqual(['banjo', 'clarinet', 'percussion', 'trombone', 'woodblock']);
});
