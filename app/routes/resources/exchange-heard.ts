import { OutsideError } from '~server/exchange/source';
import { readForm, outsideForm } from '~server/forms/forms';
import { sourceParam } from '~server/http/exchange.server';
import { readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { requirePersonForData } from '~server/http/session.server';
import { hearOutside } from '~server/services/exchange/hear.server';
import type { Route } from './+types/exchange-heard';

/** Fetches a preview from outside and makes it a loop that can be heard over the project. */
export async function action({ request, params }: Route.ActionArgs) {
  await requirePersonForData(request);
  const source = sourceParam(params.source),
    read = await readForm(outsideForm, await readFormData(request));
  if (!read.ok) return problem(400, 'Say which loop.', read.errors);
  try {
    const heard = await hearOutside(source, read.values.id);
    return typeof heard === 'string' ? problem(409, heard) : Response.json({ row: heard });
  } catch (error) {
    if (error instanceof OutsideError) return problem(error.kind === 'gone' ? 404 : 409, error.message);
    throw error;
  }
}
