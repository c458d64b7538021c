import type { Wish } from '~/audio/wish';
import { HeardTickets } from './heard-tickets';

const wish = (id: number, shiftSemitones = 0): Wish => ({ row: { id }, treatment: { shiftSemitones }, offsetBeats: 0 }) as unknown as Wish;

test('what was shown is meant, though another sounds by now', () => {
  const tickets = new HeardTickets(),
    first = tickets.ticketOf(wish(7)) as number,
    second = tickets.ticketOf(wish(8)) as number;
  expect(second).not.toBe(first);
  expect(tickets.wishOf(first)?.row.id).toBe(7);
  expect(tickets.wishOf(second)?.row.id).toBe(8);
});
test('the same loop keeps its number, and is meant as it was treated last', () => {
  const tickets = new HeardTickets(),
    number = tickets.ticketOf(wish(7)) as number;
  tickets.ticketOf(wish(8));
  expect(tickets.ticketOf(wish(7, -5))).toBe(number);
  expect(tickets.wishOf(number)?.treatment).toEqual({ shiftSemitones: -5 });
});
test('nothing heard has no number, and what nobody showed is nothing', () => {
  const tickets = new HeardTickets();
  expect(tickets.ticketOf(null)).toBeNull();
  expect(tickets.wishOf(1)).toBeNull();
});
test('the twelve heard last are remembered, and numbers are never given twice', () => {
  const tickets = new HeardTickets(),
    numbers = Array.from({ length: 20 }, (_, id) => tickets.ticketOf(wish(id)) as number);
  expect(new Set(numbers).size).toBe(20);
  expect(numbers.filter((number) => tickets.wishOf(number))).toEqual(numbers.slice(8));
  // Heard again, the ninth outlives the tenth.
  tickets.ticketOf(wish(8));
  tickets.ticketOf(wish(99));
  expect([tickets.wishOf(numbers[8])?.row.id, tickets.wishOf(numbers[9])]).toEqual([8, null]);
});
