import type { LoopCard } from '~contracts/loop-card';
import { OwnWords } from './own-words';

const row = (id: number, said: Partial<LoopCard> = {}) => ({ id, favourite: false, stars: null, note: '', ...said }) as LoopCard;

test('a list that set out before something was said does not take it away', () => {
  const own = new OwnWords();
  own.say(1, { stars: 4 });
  own.say(1, { note: 'for the ferry' });
  expect(own.over([row(1, { stars: 4 }), row(2)])).toEqual([row(1, { stars: 4, note: 'for the ferry' }), row(2)]);
  expect(own.over([row(1)])).toEqual([row(1, { stars: 4, note: 'for the ferry' })]);
});
test('once a list knows it, what comes later is the list’s: another window may say otherwise', () => {
  const own = new OwnWords();
  own.say(1, { favourite: true });
  expect(own.over([row(1, { favourite: true })])).toEqual([row(1, { favourite: true })]);
  expect(own.over([row(1)])).toEqual([row(1)]);
});
test('the last word counts, and stars that are taken away stay away', () => {
  const own = new OwnWords();
  own.say(1, { stars: 4 });
  own.say(1, { stars: null });
  expect(own.over([row(1, { stars: 4 })])).toEqual([row(1)]);
});
