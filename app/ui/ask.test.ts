import { ask, askingInOrder, withForm, withJson } from './ask';

const answering = (answer: () => Promise<Response>) => jest.spyOn(globalThis, 'fetch').mockImplementation(answer);
const problem = (status: number, body: object) => async () => new Response(JSON.stringify(body), { status });
afterEach(() => jest.restoreAllMocks());

test('what was asked for is given as it came', async () => {
  answering(async () => Response.json({ id: 7 }));
  expect(await ask('/x')).toEqual({ ok: true, answer: { id: 7 } });
});
test('a refusal is told in its own words, that of a field before that of all', async () => {
  answering(problem(403, { detail: 'Only a keeper can.' }));
  expect(await ask('/x')).toEqual({ ok: false, wrong: 'Only a keeper can.', errors: {} });
  answering(problem(400, { detail: 'Some of it cannot be taken.', errors: { name: 'Give it a name.' } }));
  expect(await ask('/x')).toEqual({ ok: false, wrong: 'Give it a name.', errors: { name: 'Give it a name.' } });
});
test('no server, an answer of another kind and a reason that is missing are refusals, in the words of who asks', async () => {
  const trouble = [async () => Promise.reject(new TypeError('Failed to fetch')), async () => new Response('<html>'), problem(500, {})];
  for (const answer of trouble) {
    answering(answer);
    expect(await ask('/x', {}, 'It could not be kept.')).toEqual({ ok: false, wrong: 'It could not be kept.', errors: {} });
  }
  expect(await ask('/x')).toMatchObject({ wrong: expect.stringMatching(/did not answer/) });
});
test('what is sent is a form, or JSON', async () => {
  const sent = answering(async () => Response.json({}));
  await ask('/x', withForm('put', { title: 'Low & slow', loopId: 3 }));
  await ask('/x', withJson('post', { ids: [1, 2] }));
  const [[, first], [, second]] = sent.mock.calls;
  expect([first?.method, String(first?.body)]).toEqual(['put', 'title=Low+%26+slow&loopId=3']);
  expect([second?.method, second?.body, second?.headers]).toEqual(['post', '{"ids":[1,2]}', { 'Content-Type': 'application/json' }]);
});
test('of what is asked again and again, what is overtaken is left, and what comes in its turn is taken', async () => {
  const lets: ((value: number) => void)[] = [];
  answering(() => new Promise((arrive) => lets.push((value) => arrive(Response.json({ value })))));
  const again = askingInOrder(),
    taken = [1, 2, 3].map(() => again<{ value: number }>('/x'));
  lets[0](1);
  expect(await taken[0]).toEqual({ value: 1 });
  lets[2](3);
  expect(await taken[2]).toEqual({ value: 3 });
  lets[1](2);
  expect(await taken[1]).toBeNull();
});
