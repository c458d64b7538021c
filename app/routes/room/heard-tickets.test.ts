import type { CandidateRequest } from '~/audio/candidate-request';
import { HeardTickets } from './heard-tickets';

const request = (id: number, shiftSemitones = 0): CandidateRequest =>
  ({ row: { id }, overrides: { shiftSemitones }, offsetBeats: 0 }) as unknown as CandidateRequest;

test('what was shown is meant, though another sounds by now', () => {
  const tickets = new HeardTickets(),
    first = tickets.ticketOf(request(7)) as number,
    second = tickets.ticketOf(request(8)) as number;
  expect(second).not.toBe(first);
  expect(tickets.requestOf(first)?.row.id).toBe(7);
  expect(tickets.requestOf(second)?.row.id).toBe(8);
});
test('the same loop keeps its number, and is meant as it was treated last', () => {
  const tickets = new HeardTickets(),
    number = tickets.ticketOf(request(7)) as number;
  tickets.ticketOf(request(8));
  expect(tickets.ticketOf(request(7, -5))).toBe(number);
  expect(tickets.requestOf(number)?.overrides).toEqual({ shiftSemitones: -5 });
});
test('nothing heard has no number, and what nobody showed is nothing', () => {
  const tickets = new HeardTickets();
  expect(tickets.ticketOf(null)).toBeNull();
  expect(tickets.requestOf(1)).toBeNull();
});
test('the twelve heard last are remembered, and numbers are never given twice', () => {
  const tickets = new HeardTickets(),
    numbers = Array.from({ length: 20 }, (_, id) => tickets.ticketOf(request(id)) as number);
  expect(new Set(numbers).size).toBe(20);
  expect(numbers.filter((number) => tickets.requestOf(number))).toEqual(numbers.slice(8));
  // Heard again, the ninth outlives the tenth.
  tickets.ticketOf(request(8));
  tickets.ticketOf(request(99));
  expect([tickets.requestOf(numbers[8])?.row.id, tickets.requestOf(numbers[9])]).toEqual([8, null]);
});
