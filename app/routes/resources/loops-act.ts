import { data } from 'react-router';
import { attributeRow, doubtAttributes, isAttribute } from '~core/analysis/attributes/registry';
import { fitDefaultsForm, readForm } from '~server/forms/forms';
import { idParam, readFormData } from '~server/http/input.server';
import { requirePersonForData } from '~server/http/session.server';
import { agree, takeBack, type FactName } from '~server/services/doubts.server';
import { setFitDefaults } from '~server/services/fit-defaults.server';
import { correctFact, withdrawCorrection, type Correction } from '~server/services/facts.server';
import { archiveLoops, loopsExist, mayArchive, setFavourite, setTag } from '~server/services/loops.server';
import type { Route } from './+types/loops-act';

/** Acts on loops: favourite, tag, correct, withdraw, handle, archive, restore; and on facts: agree with several, take that back. */
export async function action({ request }: Route.ActionArgs) {
  const person = await requirePersonForData(request);
  const form = await readFormData(request),
    intent = String(form.get('intent')),
    ids = form.getAll('loopId').map((id) => idParam(String(id)));
  if (intent === 'agree' || intent === 'disagree') {
    const facts = form.getAll('fact').map(readFactName);
    if (facts.length === 0 || facts.includes(null)) return data({ error: 'There is no such fact.' }, { status: 400 });
    await (intent === 'agree' ? agree : takeBack)(facts as FactName[], person.id);
    return { ok: true };
  }
  if (ids.length === 0) return data({ error: 'No loop was named.' }, { status: 400 });
  const value = String(form.get('value') ?? '').trim();
  if (!(await loopsExist(ids))) return data({ error: 'That loop is no longer there.' }, { status: 404 });
  switch (intent) {
    case 'favourite':
      await setFavourite(person.id, ids[0], value === '1');
      break;
    case 'tag':
    case 'untag':
      if (!value || value.length > 60) return data({ error: 'A tag has 1 to 60 letters.' }, { status: 400 });
      await setTag(ids[0], value, intent === 'tag', person.id);
      break;
    case 'archive':
    case 'restore':
      if (!(await mayArchive(ids, person))) return data({ error: 'Only a keeper can archive what others brought in.' }, { status: 403 });
      await archiveLoops(ids, intent === 'archive', person.id);
      break;
    case 'withdraw': {
      const attribute = String(form.get('attribute'));
      if (!isAttribute(attribute)) return data({ error: 'There is no such fact.' }, { status: 400 });
      await withdrawCorrection(ids[0], attribute, person.id);
      break;
    }
    case 'handle': {
      const fitDefaults = await readForm(fitDefaultsForm, form);
      if (!fitDefaults.ok) return data({ error: 'A loop cannot be fitted like that.' }, { status: 400 });
      await setFitDefaults(ids[0], fitDefaults.values, person.id);
      break;
    }
    case 'correct': {
      const correction = readCorrection(String(form.get('attribute')), value);
      if (!correction) return data({ error: 'That value does not fit.' }, { status: 400 });
      const wrong = await correctFact(ids[0], correction, person.id);
      if (wrong) return data({ error: wrong }, { status: 400 });
      break;
    }
    default:
      return data({ error: 'Nothing to do.' }, { status: 400 });
  }
  return { ok: true };
}

/** `17-tempo`: a fact of a loop that one can be in doubt about; null for anything else. */
function readFactName(text: FormDataEntryValue): FactName | null {
  const [, id, name] = /^(\d{1,9})-(\w+)$/.exec(String(text)) ?? [],
    attribute = doubtAttributes.find((each) => each === name);
  return id && attribute ? { loopId: Number(id), attribute } : null;
}

/** A correction from a form, as the attribute's codec reads it: tempo `124.6`, start of bar 1 in seconds `0.032`, key `5m`; null for what is no value. */
function readCorrection(name: string, text: string): Correction | null {
  if (!isAttribute(name)) return null;
  const value = attributeRow(name).fromText(text);
  return value === null ? null : ({ attribute: name, value } as Correction);
}
