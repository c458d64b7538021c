import { attributeRow, isAttribute } from '~core/analysis/attributes/registry';
import { idParam, readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { knownLoop, onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { correctFact, withdrawCorrection, type Correction } from '~server/services/words.server';
import type { Route } from './+types/loop-fact';

/** PUT: a person's word on a fact, `value` as the attribute's codec reads it (tempo `124.6`, key `5m`); DELETE: the detectors speak again, whoever said what. */
export async function action({ request, params: { loopId, attribute } }: Route.ActionArgs) {
  const person = await requirePersonForData(request),
    id = await knownLoop(idParam(loopId));
  if (!isAttribute(attribute)) return problem(404, 'There is no such fact.');
  if (onlyMethods(request, 'PUT', 'DELETE') === 'DELETE') return { words: await withdrawCorrection(id, attribute, person.id) };
  const value = attributeRow(attribute).fromText(String((await readFormData(request)).get('value') ?? '').trim()),
    said = value === null ? 'That value does not fit.' : await correctFact(id, { attribute, value } as Correction, person.id);
  return typeof said === 'string' ? problem(400, said) : { words: [said] };
}
