import { folderChanges, type KnownFile } from './folder-changes';

const known = (path: string, bytes = 10, modifiedMs = 1000): KnownFile => ({ path, bytes, modifiedMs, fileSha256: path, vendorPath: path }),
  nowMs = 100_000;

test('what is as it was is not read again, what is new or changed is', () => {
  const { toRead, gone } = folderChanges(
    [
      { path: 'same.wav', bytes: 10, modifiedMs: 1000 },
      { path: 'longer.wav', bytes: 11, modifiedMs: 1000 },
      { path: 'touched.wav', bytes: 10, modifiedMs: 2000 },
      { path: 'new.wav', bytes: 5, modifiedMs: 3000 },
    ],
    [known('same.wav'), known('longer.wav'), known('touched.wav'), known('away.wav')],
    nowMs,
  );
  expect(toRead.map(({ path }) => path)).toEqual(['longer.wav', 'touched.wav', 'new.wav']);
  expect(gone.map(({ path }) => path)).toEqual(['away.wav']);
});
test('a file that is being written waits, and so does an empty one', () => {
  const { toRead, growing } = folderChanges(
    [
      { path: 'writing.wav', bytes: 10, modifiedMs: nowMs - 500 },
      { path: 'empty.wav', bytes: 0, modifiedMs: 1000 },
      { path: 'whole.wav', bytes: 10, modifiedMs: nowMs - 5000 },
    ],
    [],
    nowMs,
  );
  expect(toRead.map(({ path }) => path)).toEqual(['whole.wav']);
  expect(growing).toBe(2);
});
