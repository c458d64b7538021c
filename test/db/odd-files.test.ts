import { Readable } from 'node:stream';
import { loadTransforms } from '~core/dsp/real-fft';
import { archives } from '../odd-files/archives';
import { midiFiles } from '../odd-files/midi';
import type { OddFile } from '../odd-files/odd-file';
import { otherFiles } from '../odd-files/sounds';
import { wavFiles } from '../odd-files/wav';
import { importAll, openLibrary, storeStaysWhole, type Library, type Services } from './services';

type Lines = Awaited<ReturnType<Services['imports']['listBatchFiles']>>;

/*
 * Each odd or hostile file ends in the row that it must end in, through the import as people use it; and nothing of one that is refused stays.
 */
let library: Library, s: Services, files: OddFile[];
beforeAll(async () => {
  await loadTransforms();
  library = await openLibrary();
  ({ s } = library);
  files = [...wavFiles, ...midiFiles, ...(await otherFiles())];
});
afterAll(() => library.close());
storeStaysWhole(() => s);

/** What a row is held against, in a form that says which file it is of. */
const rowOf = (lines: Lines, path: string) => {
  const line = lines.find((each) => each.path === path);
  return { path, state: line?.state ?? 'no row', message: line?.message ?? '' };
};

test('at least 150 are named, each once', () => {
  const paths = [...files, ...archives].map(({ path }) => path);
  expect(paths.length).toBeGreaterThanOrEqual(150);
  expect(new Set(paths).size).toBe(paths.length);
});

test('each odd file ends in its row, and those that are refused say why', async () => {
  const { lines } = await importAll(
    library,
    'Odds',
    files.map(({ path, bytes }) => [path, Buffer.from(bytes)]),
  );
  const wrong = files.flatMap(({ path, state, says, why }) => {
    const row = rowOf(lines, path);
    return row.state === state && (!says || says.test(row.message)) ? [] : [{ ...row, why, wanted: state, says: String(says ?? '') }];
  });
  expect(wrong).toEqual([]);
  // No sentence is a program's: no stack, no code, no path of the machine.
  for (const { message } of lines) expect(message ?? '').not.toMatch(/Error:|undefined|null|NaN|\n|\/tmp|at \w+\.|0x/);
}, 240_000);

test('each odd archive comes to its rows', async () => {
  const { lines } = await importAll(
    library,
    'Odd archives',
    archives.map(({ path, bytes }) => [path, Buffer.from(bytes)]),
  );
  const wrong = archives.flatMap(({ path: archive, why, rows }) =>
    rows.flatMap(({ path, state, says }) => {
      const found = lines.filter((line) => path.test(line.path));
      return found.some((line) => line.state === state && (!says || says.test(line.message ?? '')))
        ? []
        : [
            {
              archive,
              why,
              wanted: `${state} ${says ?? ''}`,
              path: String(path),
              found: found.map((line) => `${line.path}: ${line.state}, ${line.message}`),
            },
          ];
    }),
  );
  expect(wrong).toEqual([]);
}, 240_000);

test('a name that cannot be one is refused before a byte of it is kept', async () => {
  const id = await s.imports.openBatch({ packName: 'No names', vendor: '', licence: '', description: '' }, library.person);
  for (const name of ['..', '../up.wav', '///', '\u0001\u0002', 'x/'.repeat(600)])
    expect(await s.imports.receiveFile(id, library.person, name, Readable.from([Buffer.from('RIFF')]))).toEqual({
      ok: false,
      message: 'The file has no usable name.',
    });
  expect(await s.imports.listBatchFiles(id)).toEqual([]);
});
