import {
  batchStates,
  batchTransitions,
  fileStates,
  fileTransitions,
  nextBatchState,
  settledBatchStates,
  waitingFileStates,
  type BatchEvent,
  type BatchState,
  type Transition,
} from './states';

const reached = <State extends string>(from: State, rows: readonly Transition<State>[]): Set<State> => {
  const found = new Set<State>([from]);
  for (let before = 0; before !== found.size;) {
    before = found.size;
    for (const row of rows) if (row.from.some((state) => found.has(state))) found.add(row.to);
  }
  return found;
};

test('every state of a batch is reached from the first, and every state of a file', () => {
  expect([...reached<BatchState>('receiving', Object.values(batchTransitions))].sort()).toEqual([...batchStates].sort());
  // Some files are left aside, or failed, as they come in.
  expect([...reached('queued', Object.values(fileTransitions))].sort()).toEqual([...fileStates].sort());
});
test('from wherever jobs have it, jobs alone bring a batch to where it stays', () => {
  const byJobs = Object.values(batchTransitions).filter(({ by }) => (by as readonly string[]).includes('job'));
  for (const state of batchStates)
    if (!settledBatchStates.includes(state)) expect([...reached(state, byJobs)].some((end) => settledBatchStates.includes(end))).toBe(true);
  expect([...settledBatchStates].sort()).toEqual(['cancelled', 'done', 'failed', 'receiving']);
});
test('nothing leads out of what is done or stopped, and only a person’s wish out of what failed', () => {
  const out = (state: BatchState) =>
    (Object.keys(batchTransitions) as BatchEvent[]).filter((event) => nextBatchState(event, state) !== null);
  expect(out('done')).toEqual([]);
  expect(out('cancelled')).toEqual([]);
  expect(out('failed')).toEqual(['retry']);
});
test('a job that begins again finds its batch and its file as it left them', () => {
  expect(nextBatchState('unpack', 'unpacking')).toBe('unpacking');
  expect(fileTransitions.work.from).toContain(fileTransitions.work.to);
});
test('what waits can be left, and nothing that waits is done', () => {
  expect([...fileTransitions.leave.from].sort()).toEqual([...waitingFileStates].sort());
  expect(waitingFileStates).not.toContain('done');
});
