import { opinions } from './opinions';
import { toast } from './toast';

interface Sent {
  readonly address: string;
  readonly method?: string;
  readonly body: string;
  readonly arrive: (isTaken: boolean) => void;
}
let sent: Sent[];
let told: string[];
beforeEach(() => {
  sent = [];
  told = [];
  jest.spyOn(toast, 'error').mockImplementation((text) => void told.push(text));
  globalThis.fetch = ((address: string, { method, body }: RequestInit) =>
    new Promise((answer) =>
      sent.push({
        address,
        method,
        body: String(body),
        arrive: (isTaken) => answer(isTaken ? Response.json({ ok: true }) : Response.json({ detail: 'No.' }, { status: 403 })),
      }),
    )) as unknown as typeof fetch;
});
afterEach(() => jest.restoreAllMocks());
const turns = async () => {
  for (let turn = 0; turn < 30; turn++) await Promise.resolve();
};

test('what is said of one thing waits for what was said of it before, so that the last word stays; of another it does not', async () => {
  const said = [opinions.favourite(3, true), opinions.favourite(3, false), opinions.favourite(4, true)];
  await turns();
  expect(sent.map(({ address, method }) => `${method} ${address}`)).toEqual([
    'put /api/v1/loops/3/favourite',
    'put /api/v1/loops/4/favourite',
  ]);
  sent[0].arrive(true);
  await said[0];
  await turns();
  expect(sent[2]).toMatchObject({ address: '/api/v1/loops/3/favourite', method: 'delete' });
  sent[1].arrive(true);
  sent[2].arrive(true);
  expect(await Promise.all(said)).toEqual([true, true, true]);
});
test('what is refused says so, and holds up nothing that is said behind it', async () => {
  const said = [opinions.stars(3, 4), opinions.stars(3, null)];
  await turns();
  sent[0].arrive(false);
  expect(await said[0]).toBe(false);
  expect(told).toEqual(['No.']);
  await turns();
  expect(sent[1].body).toBe('stars=');
  sent[1].arrive(true);
  expect(await said[1]).toBe(true);
});
