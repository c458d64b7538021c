import { stretchModeRows } from '../../core/stretch/stretch-modes';
import { batchForm, exportForm, fitDefaultsForm, personForm, projectForm, readForm, remoteForm, signInForm } from './forms';

const form = (values: Readonly<Record<string, string>>): FormData => {
  const data = new FormData();
  for (const [name, value] of Object.entries(values)) data.set(name, value);
  return data;
};
const errors = async (read: ReturnType<typeof readForm>): Promise<unknown> => {
  const found = await read;
  return found.ok ? null : found.errors;
};

test('a project: what is given is read, the rest has its usual value, and what is not asked for is dropped', async () => {
  expect(await readForm(projectForm, form({ name: '  Night shift ', tempo: '92.5', other: 'x' }))).toEqual({
    ok: true,
    values: { name: 'Night shift', tempo: 92.5, key: 'none', meter: '4/4' },
  });
});

test('everything that is wrong is told at once, in words', async () => {
  expect(await errors(readForm(projectForm, form({ name: '', tempo: 'fast' })))).toEqual({
    name: 'Please name the project.',
    tempo: 'The tempo must be a number.',
  });
  for (const tempo of ['29', '301'])
    expect(await errors(readForm(projectForm, form({ name: 'a', tempo })))).toEqual({ tempo: 'The tempo must be 30 to 300.' });
  expect(await errors(readForm(signInForm, form({})))).toEqual({ name: 'Please give your name.', password: 'Please give your password.' });
  expect(await errors(readForm(batchForm, form({ packName: '   ' })))).toEqual({ packName: 'Please name the pack.' });
});

test.each([
  ['short', false],
  ['a short sentence', true],
])('the password %p is long enough: %p', async (password, fine) => {
  expect((await readForm(personForm, form({ name: 'Mara', password }))).ok).toBe(fine);
});

test('what only a program sends is checked too', async () => {
  for (const { mode: stretchMode } of stretchModeRows) expect((await readForm(fitDefaultsForm, form({ stretchMode }))).ok).toBe(true);
  expect((await readForm(fitDefaultsForm, form({ stretchMode: 'magic' }))).ok).toBe(false);
  expect((await readForm(fitDefaultsForm, form({ gridStrength: '1.5' }))).ok).toBe(false);
  expect((await readForm(exportForm, form({ bits: '24', rateHz: '48000' }))).ok).toBe(true);
  expect((await readForm(exportForm, form({ bits: '8', rateHz: '48000' }))).ok).toBe(false);
  for (const [command, fine] of [
    ['digit-8', true],
    ['digit-9', false],
    ['keep', true],
    ['keep-12', true],
    ['keep-', false],
    ['keep-1234567890', false],
    ['keep it', false],
  ] as const)
    expect((await readForm(remoteForm, form({ command }))).ok).toBe(fine);
});

test('files in a form are no values', async () => {
  const data = form({ packName: 'Moor Street', vendor: 'Hollis' });
  data.set('licence', new File(['x'], 'x.txt'));
  expect(await readForm(batchForm, data)).toMatchObject({ ok: true, values: { licence: '' } });
});
