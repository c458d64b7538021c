import type { Response as ExpressResponse } from 'express';
import { data } from 'react-router';

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
};
const mediaType = 'application/problem+json';

const problemOf = (status: number, detail: string, errors?: Problem['errors']): Problem => ({
  type: 'about:blank',
  title: titles[status] ?? 'That did not work',
  status,
  detail,
  ...(errors ? { errors } : {}),
});

/** To be returned by an action or a loader. */
export const problem = (status: number, detail: string, errors?: Problem['errors']) =>
  data(problemOf(status, detail, errors), { status, headers: { 'Content-Type': mediaType } });

/** To be thrown from anywhere below one. */
export const problemResponse = (status: number, detail: string): Response =>
  new Response(JSON.stringify(problemOf(status, detail)), { status, headers: { 'Content-Type': mediaType } });

/** For what is refused before a route looks at it. */
export const sendProblem = (response: ExpressResponse, status: number, detail: string): void =>
  void response
    .status(status)
    .type(mediaType)
    .send(JSON.stringify(problemOf(status, detail)));
