import { attributeRow, type FactValues } from '../attributes/registry';
import { sameValue, supports, type Attribute, type Candidate, type Evidence } from '../facts';
import { isWord, type Source } from '../sources';

export interface Chosen<A extends Attribute = Attribute> {
  readonly attribute: A;
  readonly value: FactValues[A];
  readonly confidence: number;
  /** The source that speaks most for the value. */
  readonly source: Source;
  readonly alternatives: readonly Candidate<FactValues[A]>[];
  readonly reasons: readonly string[];
}

/**
 * How often a source speaks of this loop at all. What it says then is a distribution of its own: the sound's is calibrated where it is
 * learned, a name's holds the known errors of vendors (see `from-names.ts`). So trust covers only the rest: a name copied from another
 * loop, a tag that a tool filled with a default. Set by measuring with names on sets that nothing was trained on (docs/training.md).
 */
const trust: Readonly<Record<Source, number>> = {
  person: 1,
  project: 1,
  confirmed: 1,
  notes: 0.98,
  tag: 0.94,
  'file-name': 0.97,
  folder: 0.92,
  length: 0.9,
  sound: 0.99,
  set: 0.85,
  pack: 0.9,
};
const trustOf = (source: Source, attribute: Attribute): number => attributeRow(attribute).trust?.[source] ?? trust[source];
const keptAlternatives = 6;

/**
 * One answer from several witnesses, each of whom is right with the probability of its trust and else says nothing:
 * score(v) = Π over sources of ( trust · (p(v) + open / candidates) + (1 − trust) / candidates ), scaled to sum 1; `open` is what a source
 * leaves to values it does not name.
 * A person's word outranks all (the newest one, given last). @returns null without evidence
 */
export function fuse<A extends Attribute>(attribute: A, all: readonly Evidence[]): Chosen<A> | null {
  const mine = all.filter((each): each is Evidence<A> => each.attribute === attribute && each.candidates.length > 0);
  if (mine.length === 0) return null;
  if (attributeRow(attribute).fused === 'each') return fuseEach(attribute, mine);
  // What it was made as counts as a person's word, after those of persons; so does what a person of another library said, after both.
  const person =
    mine.filter((each) => each.source === 'person').at(-1) ??
    mine.find((each) => each.source === 'project') ??
    mine.find((each) => each.source === 'confirmed');
  const witnesses = mine.filter((each) => !isWord(each.source) && each.source !== 'confirmed');
  const posterior = weigh(attribute, witnesses);
  const reasons = [...(person ? [person.reason] : []), ...witnesses.map((each) => each.reason)].filter((reason) => reason !== '');
  if (person) {
    const { value } = person.candidates[0];
    return {
      attribute,
      value,
      confidence: person.candidates[0].probability,
      source: person.source,
      alternatives: posterior.filter((each) => !sameValue(attribute, each.value, value)).slice(0, keptAlternatives),
      reasons,
    };
  }
  const [best, ...rest] = posterior;
  return {
    attribute,
    value: best.value,
    confidence: best.probability,
    source: leadingSource(attribute, witnesses, best.value),
    alternatives: rest.filter((each) => each.probability >= 0.005).slice(0, keptAlternatives),
    reasons,
  };
}

/** From here on a value stands beside the others. */
const standsFrom = 0.5;

/**
 * Values beside each other, each a list of one: chance(v) = 1 − Π over sources of ( 1 − trust · p(v) ). Those that are likelier than not are the
 * answer, which is as sure as the least sure of them; a person's word is all of it. @returns null when nothing is likely
 */
function fuseEach<A extends Attribute>(attribute: A, mine: readonly Evidence<A>[]): Chosen<A> | null {
  const person = mine.filter(({ source }) => source === 'person').at(-1) ?? mine.find(({ source }) => source === 'project'),
    witnesses = mine.filter(({ source }) => !isWord(source)),
    reasons = [...(person ? [person.reason] : []), ...witnesses.map(({ reason }) => reason)].filter((reason) => reason !== ''),
    misses = new Map<string, number>();
  for (const { source, candidates } of witnesses)
    for (const { value, probability } of candidates)
      for (const each of value as unknown as readonly string[])
        misses.set(each, (misses.get(each) ?? 1) * (1 - trustOf(source, attribute) * probability));
  const chances = [...misses].map(([value, miss]) => ({ value, probability: 1 - miss })).sort((a, b) => b.probability - a.probability),
    standing = person
      ? (person.candidates[0].value as unknown as readonly string[])
      : chances.filter(({ probability }) => probability >= standsFrom).map(({ value }) => value);
  if (!person && standing.length === 0) return null;
  return {
    attribute,
    value: standing as unknown as FactValues[A],
    confidence: person ? 1 : Math.min(...chances.filter(({ value }) => standing.includes(value)).map(({ probability }) => probability)),
    source: person ? person.source : witnesses[0].source,
    alternatives: chances
      .filter(({ value }) => !standing.includes(value))
      .slice(0, keptAlternatives)
      .map(({ value, probability }) => ({ value: [value] as unknown as FactValues[A], probability })),
    reasons,
  };
}

/** The whole distribution that `fuse` chooses from, without a person's word. */
export function fuseAll<A extends Attribute>(attribute: A, all: readonly Evidence[]): Candidate<FactValues[A]>[] {
  const witnesses = all.filter(
    (each): each is Evidence<A> => each.attribute === attribute && each.candidates.length > 0 && !isWord(each.source),
  );
  return witnesses.length ? weigh(attribute, witnesses) : [];
}

function weigh<A extends Attribute>(attribute: A, witnesses: readonly Evidence<A>[]): Candidate<FactValues[A]>[] {
  // Sources in the order of precision of what they state: a stated 124 stands for a measured 124.02.
  const order: readonly Source[] = ['confirmed', 'notes', 'tag', 'file-name', 'folder', 'length', 'pack', 'sound', 'set'];
  const values: FactValues[A][] = [];
  for (const source of order)
    for (const each of witnesses)
      if (each.source === source)
        for (const { value } of each.candidates) if (!values.some((known) => sameValue(attribute, known, value))) values.push(value);
  const silent = 1 / (values.length + 1);
  const scored = values.map((value) => {
    let logScore = 0;
    for (const each of witnesses) {
      const said = each.candidates.reduce(
          (sum, candidate) => sum + (supports(attribute, candidate.value, value, each.source) ? candidate.probability : 0),
          0,
        ),
        // What a source leaves open belongs to all values alike.
        open = Math.max(0, 1 - each.candidates.reduce((sum, candidate) => sum + candidate.probability, 0));
      // A lone witness has nobody to be weighed against: its distribution is the answer.
      const weight = witnesses.length > 1 ? trustOf(each.source, attribute) : 1;
      logScore += Math.log(weight * (said + open * silent) + (1 - weight) * silent + 1e-12);
    }
    return { value, logScore };
  });
  const top = Math.max(...scored.map((each) => each.logScore));
  const total = scored.reduce((sum, each) => sum + Math.exp(each.logScore - top), 0);
  return scored
    .map(({ value, logScore }) => ({ value, probability: Math.exp(logScore - top) / total }))
    .sort((a, b) => b.probability - a.probability);
}

function leadingSource<A extends Attribute>(attribute: A, witnesses: readonly Evidence<A>[], value: FactValues[A]): Source {
  let best: Source = witnesses[0].source,
    most = -1;
  for (const each of witnesses) {
    const said =
      trust[each.source] *
      each.candidates.reduce((sum, candidate) => sum + (sameValue(attribute, candidate.value, value) ? candidate.probability : 0), 0);
    if (said > most) {
      most = said;
      best = each.source;
    }
  }
  return best;
}
