import { toast } from './toast';
import { toldAction } from './told-action';

let told: string[];
beforeEach(() => {
  told = [];
  jest.spyOn(toast, 'error').mockImplementation((text) => void told.push(text));
});
afterEach(() => jest.restoreAllMocks());

test('an answer is passed on; what it refuses is told, but for what a form tells of its fields', async () => {
  for (const [answer, words] of [
    [{ added: 'Ode Vale' }, []],
    [{ detail: 'Not yours.' }, ['Not yours.']],
    [{ detail: 'Some of it cannot be taken.', errors: { name: 'Give a name.' } }, []],
  ] as const) {
    told = [];
    expect(await toldAction({ serverAction: async () => answer })).toBe(answer);
    expect(told).toEqual(words);
  }
});
test('a server that is not there is told, and the page stays; to another page it leads all the same', async () => {
  expect(await toldAction({ serverAction: () => Promise.reject(new TypeError('Failed to fetch')) })).toBeNull();
  expect(told).toEqual([expect.stringMatching(/did not answer/)]);
  const leads = new Response(null, { status: 302 });
  await expect(toldAction({ serverAction: () => Promise.reject(leads as unknown as Error) })).rejects.toBe(leads);
});
