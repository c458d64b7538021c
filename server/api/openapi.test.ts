import { readFileSync } from 'node:fs';
import { endpoints } from './endpoints';
import { openApi } from './openapi';

const routed = [...readFileSync('app/routes.ts', 'utf8').matchAll(/route\('(api\/v1\/[^']+)'/g)].map(
  ([, path]) => `/${path.replace(/:(\w+)/g, '{$1}')}`,
);

test('every route of the API is described, and nothing else', () => {
  expect(routed.length).toBeGreaterThan(10);
  expect([...new Set(endpoints.map(({ path }) => path))].sort()).toEqual([...routed].sort());
});
test('each address does each thing once, and says what in words', () => {
  const names = endpoints.map(({ method, path }) => `${method} ${path}`);
  expect(new Set(names).size).toBe(names.length);
  for (const { does } of endpoints) expect(does).toMatch(/^[A-Z].+/);
});
test('what forms are checked by stands in the description, with its limits', () => {
  const { paths } = openApi() as {
      paths: Record<
        string,
        Record<string, { requestBody?: { content: Record<string, { schema: { properties: Record<string, unknown> } }> } }>
      >;
    },
    { schema } = paths['/api/v1/projects/{projectId}/exports'].post.requestBody?.content['application/x-www-form-urlencoded'] ?? {
      schema: { properties: {} },
    };
  expect(Object.keys(schema.properties)).toEqual(expect.arrayContaining(['bits', 'rateHz']));
  expect(JSON.stringify(schema.properties.bits)).toMatch(/24/);
});
