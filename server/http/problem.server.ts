import type { Response as ExpressResponse } from 'express';
import { data, type MiddlewareFunction } from 'react-router';

/** What every refusal of the API looks like (RFC 9457), and of the pages' own forms too. */
export interface Problem {
  readonly type: string;
  /** What kind of trouble, the same for all of one status. */
  readonly title: string;
  readonly status: number;
  /** What is wrong, in words for the person who asked. */
  readonly detail: string;
  /** What is wrong with which field of a form. */
  readonly errors?: Readonly<Record<string, string>>;
}

const titles: Readonly<Record<number, string>> = {
  400: 'That cannot be taken',
  401: 'Sign in first',
  403: 'Not for you to do',
  404: 'Not there',
  405: 'Not done here',
  409: 'Something else was faster',
  422: 'That does not fit',
  500: 'A fault of ours',
};
const mediaType = 'application/problem+json';

const problemOf = (status: number, detail: string, errors?: Problem['errors']): Problem => ({
  type: 'about:blank',
  title: titles[status] ?? 'That did not work',
  status,
  detail,
  ...(errors ? { errors } : {}),
});

/**
 * To be returned by an action or a loader.
 * @param members what else the address tells of it
 */
export const problem = (status: number, detail: string, errors?: Problem['errors'], members: object = {}) =>
  data({ ...members, ...problemOf(status, detail, errors) }, { status, headers: { 'Content-Type': mediaType } });

/** To be thrown from anywhere below one. */
export const problemResponse = (status: number, detail: string): Response =>
  new Response(JSON.stringify(problemOf(status, detail)), { status, headers: { 'Content-Type': mediaType } });

/** For what is refused before a route looks at it. */
export const sendProblem = (response: ExpressResponse, status: number, detail: string): void =>
  void response
    .status(status)
    .type(mediaType)
    .send(JSON.stringify(problemOf(status, detail)));

/** What is told of a fault of ours; what it was stands in the log. */
export const faultWords = 'Something went wrong on our side. Please try again.';

/** Whether what asks for an address expects a problem, and no page. */
export const isOfApi = (path: string): boolean => path.startsWith('/api/');

/** A fault in a route answers the API as every refusal does. */
export const tellFaults: MiddlewareFunction<Response> = async ({ request }, next) => {
  const response = await next();
  return response.status === 500 && isOfApi(new URL(request.url).pathname) ? problemResponse(500, faultWords) : response;
};
