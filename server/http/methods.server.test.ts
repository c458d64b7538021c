import { methodsAt } from './methods.server';

test.each([
  ['/api/v1/projects', ['GET', 'POST']],
  ['/api/v1/projects.data', ['GET', 'POST']],
  ['/api/v1/projects/7/edits', ['GET', 'POST']],
  ['/api/v1/loops/archived', ['PUT', 'DELETE']],
  ['/api/v1/projects/7/versions/9', ['GET', 'DELETE', 'PUT']],
  ['/api/v1/openapi.json', ['GET']],
])('%s does %j', (path, methods) => expect(methodsAt(path)).toEqual(methods));

test.each(['/', '/projects/7', '/api/v1/openapiXjson', '/api/v1/projects/7/edits/more', '/api/v1'])('of %s nothing is said', (path) =>
  expect(methodsAt(path)).toBeNull(),
);
