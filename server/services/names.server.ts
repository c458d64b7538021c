import { isReadByPattern, tempoAndKeyOfName } from '~core/analysis/evidence/from-names';
import { withQuarters } from '~core/analysis/evidence/quarters';
import { sameValue, type Evidence } from '~core/analysis/facts';
import type { Reading } from '~core/analysis/tempo/read-rhythm';
import { shapeOf, stemOf } from '~core/names/fields';
import { isFieldRole, learnPatterns, type FieldRole, type HeardName, type NamePattern } from '~core/names/pattern';
import { selectRows, sequelize } from '../db/connection';
import {
  forgetLearntSql,
  forgetPatternSql,
  keepLearntSql,
  keepPatternSql,
  namedLoopsSql,
  namesOfPackSql,
  patternsOfPackSql,
  saidPatternsSql,
} from '../db/queries/names';
import { Pack } from '../db/models/library';
import { inTransaction } from '../db/transaction';
import { addJobInLine } from '../jobs/queue.server';
import { readNameAlone, replaceNamed } from './facts.server';
import { recordActivity } from './people.server';

/** As the table takes it. */
const longestSignature = 20;

interface NamedLoop {
  readonly id: number;
  readonly fileName: string;
  readonly vendorPath: string;
  readonly readings: readonly Reading[] | null;
}

/**
 * Learns how the names of a pack are put together, and reads those so that say something else then; the others are left as they were read when they
 * were heard, with more readings of their rhythm than are kept. Run when all of a pack has been heard.
 * @param evidence in force of its loops @returns which loops have other evidence now
 */
export async function settleNames(packId: number, evidence: ReadonlyMap<number, readonly Evidence[]>): Promise<number[]> {
  const loops = await selectRows<NamedLoop>(namedLoopsSql, [packId]),
    said = await selectRows<{ signature: string; roles: FieldRole[] }>(saidPatternsSql, [packId]),
    learnt = learnPatterns(loops.map(({ id, fileName }) => heardName(fileName, evidence.get(id) ?? []))),
    changed: number[] = [];
  await inTransaction(async (transaction) => {
    await sequelize.query(forgetLearntSql, { bind: [packId], transaction });
    for (const { signature, roles } of learnt) await sequelize.query(keepLearntSql, { bind: [packId, signature, roles], transaction });
  });
  // A person's word on a shape stands before what was learnt of it.
  const patterns: NamePattern[] = [...said, ...learnt.filter(({ signature }) => !said.some((each) => each.signature === signature))];
  for (const { id, vendorPath, readings } of loops) {
    const stored = (evidence.get(id) ?? []).filter(isTempoOrKeyOfName),
      alone = tempoAndKeyOfName(vendorPath, []),
      asAll = tempoAndKeyOfName(vendorPath, patterns);
    // What all are read as and what it says by itself may be the same, but for how sure that is.
    if (!saysTheSame(alone, asAll, Infinity)) {
      const wanted = withQuarters(asAll, readings ?? []);
      if (saysTheSame(stored, wanted)) continue;
      await replaceNamed(id, wanted);
    } else {
      if (stored.length === alone.length && !stored.some(isReadByPattern)) continue;
      await readNameAlone(id, withQuarters(alone, readings ?? []));
    }
    changed.push(id);
  }
  return changed;
}

const isTempoOrKeyOfName = ({ attribute, source }: Evidence): boolean =>
  source === 'file-name' && (attribute === 'tempo' || attribute === 'key');

/** Whether two lists name the same values, with chances no further apart; those that the database keeps are rounded. */
function saysTheSame(a: readonly Evidence[], b: readonly Evidence[], apart = 1e-4): boolean {
  const sorted = (all: readonly Evidence[]) => [...all].sort((x, y) => (x.attribute < y.attribute ? -1 : 1));
  return (
    a.length === b.length &&
    sorted(a).every((each, k) => {
      const other = sorted(b)[k];
      return (
        each.attribute === other.attribute &&
        each.candidates.length === other.candidates.length &&
        each.candidates.every(({ value, probability }, n) => {
          const beside = other.candidates[n];
          return sameValue(each.attribute, value, beside.value) && Math.abs(probability - beside.probability) < apart;
        })
      );
    })
  );
}

/** What was heard, beside what is said anywhere. */
function heardName(fileName: string, evidence: readonly Evidence[]): HeardName {
  const heard = (attribute: string) =>
      evidence.find((each) => each.attribute === attribute && (each.source === 'sound' || each.source === 'notes')),
    key = heard('key')?.candidates[0]?.value as { tonic?: number } | string | undefined;
  return {
    stem: stemOf(fileName),
    heardTempos: (heard('tempo')?.candidates ?? []).slice(0, 2).map(({ value }) => Number(value)),
    heardTonic: typeof key === 'object' ? (key.tonic ?? null) : null,
  };
}

/** How names of one shape are read in a pack, with some of them. */
export interface NameGroup {
  readonly signature: string;
  /** Empty where nothing was learnt and nobody said anything: each name is read by itself. */
  readonly roles: readonly FieldRole[];
  readonly isSaid: boolean;
  readonly count: number;
  readonly examples: readonly (readonly string[])[];
}

const mostGroups = 6,
  mostExamples = 4,
  leastShown = 3;

/** How the names of a pack are read, the commonest shapes first. */
export async function findNameGroups(packId: number): Promise<NameGroup[]> {
  const names = await selectRows<{ fileName: string }>(namesOfPackSql, [packId]),
    patterns = await selectRows<{ signature: string; roles: FieldRole[]; said: boolean }>(patternsOfPackSql, [packId]),
    vendors = await selectRows<{ signature: string; roles: FieldRole[]; own: boolean }>(saidPatternsSql, [packId]),
    groups = new Map<string, string[][]>();
  for (const { fileName } of names) {
    const { signature, fields } = shapeOf(stemOf(fileName));
    const group = groups.get(signature) ?? [];
    group.push(fields.map(({ text }) => text));
    groups.set(signature, group);
  }
  return [...groups]
    .filter(([, examples]) => examples.length >= leastShown && examples[0].length > 1)
    .sort((a, b) => b[1].length - a[1].length)
    .slice(0, mostGroups)
    .map(([signature, examples]) => {
      const said = vendors.find((each) => each.signature === signature),
        known = said ?? patterns.find((each) => each.signature === signature),
        step = Math.max(1, Math.floor(examples.length / mostExamples));
      return {
        signature,
        roles: known?.roles ?? [],
        isSaid: said !== undefined,
        count: examples.length,
        examples: examples.filter((_, k) => k % step === 0).slice(0, mostExamples),
      };
    });
}

/**
 * A person's word on how names of a shape are read in a pack; null takes it back. All of the pack is read anew.
 * @returns what a person had said before, or what is wrong in words
 */
export async function sayPattern(
  packId: number,
  signature: string,
  roles: readonly string[] | null,
  personId: number,
): Promise<{ readonly before: readonly FieldRole[] | null } | string> {
  const wanted = roles?.filter(isFieldRole) ?? null;
  if ((await Pack.count({ where: { id: packId } })) === 0) return 'There is no pack with that number.';
  const fits = wanted === null || (wanted.length === roles?.length && wanted.length <= 40 && signature.endsWith(String(wanted.length)));
  if (!fits || signature.length > longestSignature) return 'Say of each part of the names what it is.';
  if (wanted && ['tempo', 'key'].some((once) => wanted.filter((role) => role === once).length > 1))
    return 'Only one part can be the tempo, and one the key.';
  const there = await selectRows<{ signature: string; roles: FieldRole[]; said: boolean }>(patternsOfPackSql, [packId]),
    before = there.find((each) => each.signature === signature && each.said)?.roles ?? null;
  if (wanted) await selectRows(keepPatternSql, [packId, signature, wanted, personId]);
  else await selectRows(forgetPatternSql, [packId, signature]);
  await addJobInLine('settle-pack', { packId }, `settle-pack-${packId}`);
  await recordActivity(personId, wanted ? 'said how to read the names of' : 'took back how to read the names of', 'pack', packId);
  return { before };
}
