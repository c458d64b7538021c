import type { Candidate, EngineState } from '~/audio/store';
import { createEngineStore } from '~/audio/store';
import { roomState as stateWithTicket } from './room-state';

const roomState = (of: EngineState) => stateWithTicket(of, 4);
const row = (id: number, title: string) => ({
  id,
  title,
  packName: 'Tideline',
  source: { instrument: 'kit', tempoBpm: 105, key: null, pitched: false },
});
const candidate = (id: number, title: string): Candidate =>
  ({ row: row(id, title), phase: 'sounding', alone: true, overrides: {}, offsetBeats: 0 }) as unknown as Candidate;
const entries = [
  [3, 'Wet Rope'],
  [5, 'Dry Dock'],
].map(([id, title]) => ({ row: row(id as number, title as string), overrides: {}, offsetBeats: 0, note: '' }));
const state = (changes: Partial<EngineState>): EngineState => ({ ...createEngineStore().getState(), ...changes });

test('nothing heard is told as nothing', () =>
  expect(stateWithTicket(state({}), null)).toEqual({
    ticket: null,
    title: null,
    words: '',
    facts: '',
    playing: false,
    handsFree: false,
    blind: false,
    shortlist: [],
    digit: null,
  }));

test('a candidate is told with what it is and how it sounds', () =>
  expect(roomState(state({ candidate: candidate(9, 'Wet Rope'), playing: true }))).toMatchObject({
    ticket: 4,
    title: 'Wet Rope',
    words: 'as recorded · sounding',
    facts: 'Drum kit · 105 BPM · Tideline',
    playing: true,
  }));

test('a key is told where there is one, and no tempo where there is none', () => {
  const tonal = candidate(9, 'Low Tide'),
    told = roomState(
      state({
        candidate: {
          ...tonal,
          row: { ...tonal.row, source: { instrument: 'pad', tempoBpm: null, key: { tonic: 2, mode: 'minor' } } },
        } as unknown as Candidate,
      }),
    );
  expect(told.facts).toMatch(/D minor · Tideline$/);
  expect(told.facts).not.toContain('BPM');
});

test('notes are told from the recording of the same name', () => {
  const notes = candidate(9, 'Low Tide'),
    row = { ...notes.row, source: { ...notes.row.source, media: 'midi' } };
  expect(roomState(state({ candidate: { ...notes, row } as unknown as Candidate })).facts).toBe('Drum kit · 105 BPM · MIDI · Tideline');
});

test('the shortlist goes by its digits, and the one that sounds is marked', () =>
  expect(
    roomState(state({ candidate: candidate(5, 'Dry Dock'), shortlist: { entries, blind: null } as unknown as EngineState['shortlist'] })),
  ).toMatchObject({ shortlist: ['Wet Rope', 'Dry Dock'], digit: 2, blind: false }));

test('blind, neither names nor anything that gives them away leave the room', () => {
  const told = roomState(
    state({ candidate: candidate(5, 'Dry Dock'), shortlist: { entries, blind: [1, 0] } as unknown as EngineState['shortlist'] }),
  );
  expect(told).toMatchObject({ title: 'Number 1', digit: 1, blind: true, shortlist: ['?', '?'] });
  expect(JSON.stringify(told)).not.toMatch(/Dry Dock|Wet Rope|Tideline|105|kit/i);
});

test('however long the names, the message stays below what a channel of the database holds', () => {
  const long = 'Ä'.repeat(400),
    many = Array.from({ length: 8 }, (_, k) => ({ ...entries[0], row: row(k, long) })),
    told = roomState(
      state({ candidate: candidate(0, long), shortlist: { entries: many, blind: null } as unknown as EngineState['shortlist'] }),
    );
  expect(new TextEncoder().encode(JSON.stringify(told)).length).toBeLessThan(4000);
});
