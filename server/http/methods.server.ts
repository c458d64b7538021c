import { group } from 'd3-array';
import type { RequestHandler } from 'express';
import { endpoints } from '../api/endpoints';
import { sendProblem } from './problem.server';

const named = /\{\w+\}/g;

const known = [...group(endpoints, ({ path }) => path)].map(([path, all]) => ({
  isLiteral: !path.includes('{'),
  pattern: new RegExp(`^${path.replaceAll('.', '\\.').replace(named, '[^/]+')}$`),
  methods: all.map(({ method }) => method.toUpperCase()),
}));

/** What can be done at an address of the API; null where there is none of it. @param path as asked, with the ending by which pages ask for data */
export function methodsAt(path: string): readonly string[] | null {
  const asked = path.replace(/\.data$/, ''),
    found = known.filter(({ pattern }) => pattern.test(asked)),
    literal = found.filter(({ isLiteral }) => isLiteral),
    meant = literal.length > 0 ? literal : found;
  return meant.length > 0 ? [...new Set(meant.flatMap(({ methods }) => methods))] : null;
}

/** Answers what an address does not do with 405, what it does, and words, before anything else looks at it. */
export const onlyKnownMethods: RequestHandler = (request, response, next) => {
  const methods = methodsAt(request.path),
    method = request.method === 'HEAD' ? 'GET' : request.method;
  if (methods === null || method === 'OPTIONS' || methods.includes(method)) return next();
  sendProblem(response.set('Allow', methods.join(', ')), 405, `This takes ${methods.join(' or ')}.`);
};
