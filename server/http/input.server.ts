import { problemResponse } from './problem.server';

const mostId = 2_147_483_647;

/** A number from a path or a form that names a row. @throws 404 for what can be the number of none */
export function idParam(text: string | null | undefined): number {
  const id = Number(text);
  if (!/^\d{1,10}$/.test(text ?? '') || id < 1 || id > mostId) throw problemResponse(404, 'There is nothing with that number.');
  return id;
}

/** A whole number in a query, at most `most`; `otherwise` where there is none, or it is no such number. */
export function countParam(text: string | null, otherwise: number, most: number): number {
  const value = Number(text);
  return text !== null && /^\d{1,9}$/.test(text) ? Math.min(most, value) : otherwise;
}

/** Refuses what is no text, and nothing that a database keeps: a zero, half of a pair that is one sign. */
function mustBeText(value: unknown): void {
  if (typeof value === 'string' && (value.includes('\0') || /\p{Surrogate}/u.test(value))) throw new TypeError('no text');
}

/** The body as JSON. @throws 400 for what is none */
export async function readJson(request: Request): Promise<unknown> {
  try {
    return JSON.parse(await request.text(), (name, value: unknown) => {
      mustBeText(name);
      mustBeText(value);
      return value;
    }) as unknown;
  } catch {
    throw problemResponse(400, 'The request could not be read.');
  }
}

/** The body as a form. @throws 400 for what is none */
export async function readFormData(request: Request): Promise<FormData> {
  try {
    const form = await request.formData();
    for (const value of form.values()) mustBeText(value);
    return form;
  } catch {
    throw problemResponse(400, 'The form could not be read.');
  }
}
