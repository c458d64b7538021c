import { RouterContextProvider } from 'react-router';
import { faultWords, problem, tellFaults } from './problem.server';

const passed = async (path: string, answer: Response): Promise<Response> => {
  const request = new Request(`http://here.invalid${path}`),
    told = await tellFaults(
      { request, url: new URL(request.url), pattern: path, params: {}, context: new RouterContextProvider() },
      async () => Promise.resolve(answer),
    );
  if (!(told instanceof Response)) throw new Error('there is no answer');
  return told;
};

test('a fault in a route answers the API as a refusal does, and says nothing of what it was', async () => {
  const told = await passed('/api/v1/loops/7', new Response('Unexpected Server Error: relation "loops"', { status: 500 }));
  expect(told.status).toBe(500);
  expect(told.headers.get('Content-Type')).toBe('application/problem+json');
  expect(await told.json()).toEqual({ type: 'about:blank', title: 'A fault of ours', status: 500, detail: faultWords });
});
test.each([
  ['/api/v1/loops/7', 200],
  ['/api/v1/loops/7', 422],
  ['/loops/7', 500],
])('%s is answered with %i as it was', async (path, status) => {
  const answer = new Response('as it was', { status });
  expect(await passed(path, answer)).toBe(answer);
});
test('what else is told beside a refusal does not take its place', () => {
  const told = problem(422, 'That track is no longer there.', undefined, { revision: 7, status: 200, detail: 'all is well' });
  expect(told.init).toMatchObject({ status: 422 });
  expect(told.data).toEqual({
    type: 'about:blank',
    title: 'That does not fit',
    status: 422,
    detail: 'That track is no longer there.',
    revision: 7,
  });
});
