import { toast } from './toast';

/** What the API answers: what was asked for, or why not, in words for the person (`errors` by the field that each is of). */
export type Answered<T> =
  | { readonly ok: true; readonly answer: T }
  | { readonly ok: false; readonly wrong: string; readonly errors: Readonly<Record<string, string>> };

/** For who tells no better what did not come about. */
export const noAnswer = 'The server did not answer. Please try again.';

/** What a refusal says, in words for the person; null for an answer that is none. */
export function refusalOf(answer: unknown): string | null {
  return typeof answer === 'object' && answer !== null && 'detail' in answer && typeof answer.detail === 'string' ? answer.detail : null;
}

const errorsOf = (answer: unknown): Readonly<Record<string, string>> =>
  typeof answer === 'object' && answer !== null && 'errors' in answer ? (answer.errors as Readonly<Record<string, string>>) : {};

/**
 * Asks the API. Never throws: a server that is not there, or answers something else than JSON, is a refusal too.
 * @param otherwise what is said where the server gives no reason
 */
export async function ask<T = unknown>(address: string, init: RequestInit = {}, otherwise = noAnswer): Promise<Answered<T>> {
  const response = await fetch(address, init).catch(() => null),
    answer: unknown = await response?.json().catch(() => undefined);
  if (response?.ok && answer !== undefined) return { ok: true, answer: answer as T };
  const errors = errorsOf(answer);
  return { ok: false, wrong: Object.values(errors)[0] ?? refusalOf(answer) ?? otherwise, errors };
}

/** Asks, and tells the person what is refused. @returns the answer; null where there is none */
export async function askOrTell<T = unknown>(address: string, init?: RequestInit, otherwise?: string): Promise<T | null> {
  const answered = await ask<T>(address, init, otherwise);
  if (answered.ok) return answered.answer;
  toast.error(answered.wrong);
  return null;
}

export type Fields = Readonly<Record<string, string | number>>;

/** A form of these fields. */
export const withForm = (method: 'post' | 'put' | 'delete', fields: Fields = {}): RequestInit => ({
  method,
  body: new URLSearchParams(Object.entries(fields).map(([name, value]) => [name, String(value)])),
});

/** What is too deep for a form. */
export const withJson = (method: 'post' | 'put', body: unknown): RequestInit => ({
  method,
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify(body),
});

/**
 * Asks one thing again and again. An answer that arrives behind one that was asked for later is left out, since it tells of a time that is past;
 * while news keep coming, what arrives in its turn is taken all the same. Null where there is none to be taken.
 */
export function askingInOrder(): <T>(address: string) => Promise<T | null> {
  let asked = 0,
    taken = 0;
  return async <T>(address: string) => {
    const turn = ++asked,
      found = await ask<T>(address);
    if (!found.ok || turn < taken) return null;
    taken = turn;
    return found.answer;
  };
}
