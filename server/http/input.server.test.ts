import { idParam, readFormData, readJson } from './input.server';

const asked = (body: BodyInit) => new Request('http://here.invalid', { method: 'POST', body });
/** What was thrown, as its status and words. */
async function refusal(does: () => unknown): Promise<unknown> {
  try {
    await does();
    return null;
  } catch (thrown) {
    const response = thrown as Response;
    return [response.status, response.headers.get('content-type'), ((await response.json()) as { detail: string }).detail];
  }
}
const problem = 'application/problem+json';

test.each([null, undefined, '', '0', '-1', 'x', '1.5', '2147483648', '99999999999', ' 1'])('%j numbers no row', async (text) =>
  expect(await refusal(() => idParam(text))).toEqual([404, problem, 'There is nothing with that number.']),
);
test('a number that a row can have is read', () => expect(idParam('2147483647')).toBe(2_147_483_647));

test('JSON is read as it is; what is none, or holds what no database keeps, is refused', async () => {
  expect(await readJson(asked('{"steps":[{"name":"Tide 💥"}],"revision":7}'))).toEqual({ steps: [{ name: 'Tide 💥' }], revision: 7 });
  for (const body of ['{', '', '{"a":["b\\u0000"]}', '{"a\\u0000":1}', '["\\ud800"]'])
    expect(await refusal(() => readJson(asked(body)))).toEqual([400, problem, 'The request could not be read.']);
});
test('a form is read as it is; what is none, or holds a zero, is refused', async () => {
  expect((await readFormData(asked(new URLSearchParams({ name: 'Tide 💥' })))).get('name')).toBe('Tide 💥');
  expect(await refusal(() => readFormData(asked(new URLSearchParams({ name: 'a\0' }))))).toEqual([
    400,
    problem,
    'The form could not be read.',
  ]);
  expect(await refusal(() => readFormData(asked('plain')))).toEqual([400, problem, 'The form could not be read.']);
});
