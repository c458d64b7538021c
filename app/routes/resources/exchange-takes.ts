import { OutsideError, type ExchangeSource } from '~server/exchange/source';
import { readForm, takeForm, takeFoundForm } from '~server/forms/forms';
import { sourceParam } from '~server/http/exchange.server';
import { readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { requirePersonForData } from '~server/http/session.server';
import { takeFoundOutside, takeOutside } from '~server/services/exchange/take.server';
import type { Route } from './+types/exchange-takes';

/** Takes loops of a pack outside into the library, or all of it. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request),
    source = sourceParam(params.source),
    form = await readFormData(request);
  if (form.has('all')) return takeAll(source, form, person.id);
  const read = await readForm(takeForm, form),
    loopIds = form.getAll('loopId').map(String);
  if (!read.ok) return problem(400, 'Say what to take.', read.errors);
  try {
    const batchId = await takeOutside(
      source,
      { packId: read.values.packId, loopIds: loopIds.length ? loopIds.slice(0, 500) : null },
      person.id,
    );
    return batchId === null ? problem(404, 'There is none of these in that pack.') : Response.json({ batchId });
  } catch (error) {
    if (error instanceof OutsideError) return problem(409, error.message);
    throw error;
  }
}

async function takeAll(source: ExchangeSource, form: FormData, personId: number) {
  const read = await readForm(takeFoundForm, form);
  if (!read.ok) return problem(400, 'Say what to take.', read.errors);
  try {
    return Response.json({ loops: await takeFoundOutside(source, read.values, personId) });
  } catch (error) {
    if (error instanceof OutsideError) return problem(409, error.message);
    throw error;
  }
}
