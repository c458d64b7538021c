import { instrumentForm, readForm } from '~server/forms/forms';
import { readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { requirePersonForData } from '~server/http/session.server';
import { addInstrument, listOwnInstruments } from '~server/services/instruments.server';
import type { Route } from './+types/instruments';

/** The group's own instruments. */
export async function loader({ request }: Route.LoaderArgs) {
  await requirePersonForData(request);
  return { instruments: await listOwnInstruments() };
}

/** Adds one. */
export async function action({ request }: Route.ActionArgs) {
  const person = await requirePersonForData(request),
    read = await readForm(instrumentForm, await readFormData(request));
  if (!read.ok) return problem(400, 'Some of it cannot be taken.', read.errors);
  const added = await addInstrument(read.values, person.id);
  return typeof added === 'string' ? problem(400, added) : added;
}
