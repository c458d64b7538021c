import { isToldTo, readLiveEvent, writeLiveEvent, type LiveEvent } from './live-event';

const events: readonly LiveEvent[] = [
  { kind: 'import', batchId: 3 },
  { kind: 'library', loopIds: [1, 2] },
  { kind: 'library', loopIds: null },
  { kind: 'projects' },
  { kind: 'project', projectId: 1, revision: 7 },
  { kind: 'project-room', projectId: 1 },
  { kind: 'presence', projectId: 1, pageId: 'p', personId: 4, name: 'Ada', clipId: null, leaves: false },
  { kind: 'export', exportId: 9 },
  { kind: 'remote-command', personId: 4, command: 'skip' },
  { kind: 'signed-out', sessions: ['a'] },
];

test.each(events)('%j is read as it was written', (event) => expect(readLiveEvent(writeLiveEvent(event))).toEqual(event));
test.each(['', '{', 'null', '[]', '7', '{"kind":"of tomorrow"}', '{"id":1}'])('%j is no event', (text) =>
  expect(readLiveEvent(text)).toBeNull(),
);
test('what goes between a person’s rooms and remotes is told to nobody else, and who is signed out to no page at all', () => {
  const told = (personId: number) => events.filter((event) => isToldTo(event, personId)).map(({ kind }) => kind);
  expect(told(4)).toEqual(['import', 'library', 'library', 'projects', 'project', 'project-room', 'presence', 'export', 'remote-command']);
  expect(told(5)).not.toContain('remote-command');
});
