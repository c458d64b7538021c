import { exchangeKeyForm, readForm } from '~server/forms/forms';
import { sourceParam } from '~server/http/exchange.server';
import { readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { requirePersonForData } from '~server/http/session.server';
import { keepKey } from '~server/services/exchange/keys.server';
import type { Route } from './+types/exchange-key';

/** PUT keeps a person's key for a source, sealed; DELETE takes it away. It is never shown again. */
export async function action({ request, params }: Route.ActionArgs) {
  const person = await requirePersonForData(request),
    { id } = sourceParam(params.source);
  if (request.method === 'DELETE') {
    await keepKey(person.id, id, '');
    return { ok: true };
  }
  const read = await readForm(exchangeKeyForm, await readFormData(request));
  if (!read.ok) return problem(400, 'That cannot be a key.', read.errors);
  await keepKey(person.id, id, read.values.key);
  return { ok: true };
}
