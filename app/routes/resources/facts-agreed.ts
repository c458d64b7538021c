import { doubtAttributes } from '~core/analysis/attributes/registry';
import { readFormData } from '~server/http/input.server';
import { problem } from '~server/http/problem.server';
import { onlyMethods } from '~server/http/resource.server';
import { requirePersonForData } from '~server/http/session.server';
import { agreeWithFacts, type FactName } from '~server/services/words.server';
import type { Route } from './+types/facts-agreed';

/** PUT: the facts named by `fact` (`17-tempo`) are a person's word as they stand. */
export async function action({ request }: Route.ActionArgs) {
  onlyMethods(request, 'PUT');
  const person = await requirePersonForData(request),
    facts = (await readFormData(request)).getAll('fact').map(readFactName);
  if (facts.length === 0 || facts.includes(null)) return problem(400, 'There is no such fact.');
  return { words: await agreeWithFacts(facts as FactName[], person.id) };
}

/** A fact of a loop that one can be in doubt about; null for anything else. */
function readFactName(text: FormDataEntryValue): FactName | null {
  const [, id, name] = /^(\d{1,9})-(\w+)$/.exec(String(text)) ?? [],
    attribute = doubtAttributes.find((each) => each === name);
  return id && attribute ? { loopId: Number(id), attribute } : null;
}
