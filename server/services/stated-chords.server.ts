import type { Transaction } from 'sequelize';
import type { StatedChords } from '~contracts/stated-chords';
import { parseChordLine } from '~core/theory/chord-line';
import { loopBarBeats } from '~core/units/time';
import { selectRows, sequelize } from '../db/connection';
import { stateChordsSql, statedChordsSql } from '../db/queries/stated-chords';
import { inTransaction } from '../db/transaction';
import { announceLoops } from '../events/announce.server';
import { recordActivity } from './people.server';
import type { SignedIn } from './sessions.server';

interface Raw {
  readonly stated: StatedChords | null;
  readonly beats: number | null;
  readonly bars: number | null;
  readonly meter: string | null;
}

/** The chords of a loop as they are stated; null where they are only heard. */
export const statedChordsOf = async (loopId: number): Promise<StatedChords | null> =>
  (await selectRows<Raw>(statedChordsSql, [loopId]))[0]?.stated ?? null;

/** Keeps what is stated; null takes it back, so that what is heard counts again. */
export async function keepStatedChords(loopId: number, stated: StatedChords | null, transaction?: Transaction): Promise<void> {
  await sequelize.query(stateChordsSql, { bind: [loopId, stated && JSON.stringify(stated)], transaction });
}

/**
 * A person's word on the chords of a loop, as a line of text; empty: the word is taken back.
 * @returns the first word that is no chord; null where all was taken; `missing` where there is no such loop
 */
export async function sayChords(
  loopId: number,
  line: string,
  person: Pick<SignedIn, 'id' | 'name'>,
): Promise<{ readonly wrong: string } | 'missing' | null> {
  const wrong = await inTransaction((transaction) => keepSaidChords(loopId, line, person.name, transaction));
  if (wrong !== null) return wrong;
  await recordActivity(person.id, 'said the chords of', 'loop', loopId, { chords: line });
  await announceLoops([loopId]);
  return null;
}

/** The same within a transaction, told to nobody. */
export async function keepSaidChords(
  loopId: number,
  line: string,
  by: string,
  transaction: Transaction,
): Promise<{ readonly wrong: string } | 'missing' | null> {
  const [rows] = await sequelize.query(statedChordsSql, { bind: [loopId], transaction }),
    [loop] = rows as Raw[];
  if (!loop) return 'missing';
  const read = parseChordLine(line, loopBarBeats(loop));
  if (!read.ok) return { wrong: read.symbol };
  await keepStatedChords(loopId, read.chords.length === 0 ? null : { marks: read.chords, source: 'person', by }, transaction);
  return null;
}
