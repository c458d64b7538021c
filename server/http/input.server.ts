import { data } from 'react-router';

const mostId = 2_147_483_647;

/** A number from a path or a form that names a row. @throws 404 for what can be the number of none */
export function idParam(text: string | null | undefined): number {
  const id = Number(text);
  if (!/^\d{1,10}$/.test(text ?? '') || id < 1 || id > mostId) throw data('There is nothing with that number.', { status: 404 });
  return id;
}

/** A whole number in a query, at most `most`; `otherwise` where there is none, or it is no such number. */
export function countParam(text: string | null, otherwise: number, most: number): number {
  const value = Number(text);
  return text !== null && /^\d{1,9}$/.test(text) ? Math.min(most, value) : otherwise;
}

/** The body as JSON. @throws 400 for what is none */
export async function readJson(request: Request): Promise<unknown> {
  try {
    return await request.json();
  } catch {
    throw data('The request could not be read.', { status: 400 });
  }
}

/** The body as a form. @throws 400 for what is none */
export async function readFormData(request: Request): Promise<FormData> {
  try {
    return await request.formData();
  } catch {
    throw data('The form could not be read.', { status: 400 });
  }
}
