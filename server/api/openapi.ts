import { convertSchema } from '@sodaru/yup-to-json-schema';
import { endpoints, type Endpoint } from './endpoints';

const problem = {
  type: 'object',
  description: 'RFC 9457',
  properties: {
    type: { type: 'string' },
    title: { type: 'string' },
    status: { type: 'integer' },
    detail: { type: 'string', description: 'What is wrong, in words for a person.' },
    errors: { type: 'object', additionalProperties: { type: 'string' }, description: 'What is wrong with which field.' },
  },
  required: ['type', 'title', 'status', 'detail'],
};

function operation({ path, does, form, takes }: Endpoint) {
  const names = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => name);
  return {
    summary: does,
    ...(takes ? { description: `Takes ${takes}.` } : {}),
    parameters: names.map((name) => ({ name, in: 'path', required: true, schema: { type: 'string' } })),
    ...(form ? { requestBody: { content: { 'application/x-www-form-urlencoded': { schema: convertSchema(form) } } } } : {}),
    responses: {
      200: { description: 'Done.' },
      default: { description: 'Refused.', content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } } },
    },
  };
}

/** The API in OpenAPI 3.1, made of the table of endpoints and the schemas that forms are checked by. */
export function openApi(): object {
  const paths: Record<string, Record<string, object>> = {};
  for (const each of endpoints) (paths[each.path] ??= {})[each.method] = operation(each);
  return {
    openapi: '3.1.0',
    info: { title: 'Garnetfinch', version: '1' },
    components: {
      schemas: { Problem: problem },
      securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'garnetfinch' } },
    },
    security: [{ session: [] }],
    paths,
  };
}
