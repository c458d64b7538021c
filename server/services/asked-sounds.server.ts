import { Readable } from 'node:stream';
import { profileOf } from '~core/search/fit/profile';
import { selectRows, sequelize } from '../db/connection';
import { addAskedSql, askedSoundSql, forgetAskedSql, heardAskedSql } from '../db/queries/searches';
import { analyseInPool } from '../jobs/pool/pool.server';
import { bounded } from '../storage/bounded';
import { dropUnreferred, keepFile } from '../storage/keeping.server';

/** A sound that was dropped or recorded into a query: what is like it is looked for, and it is kept no longer than it takes to hear it. */
export interface AskedSound {
  readonly name: string;
  readonly likeness: Buffer | null;
  readonly profile: Buffer | null;
}

/** Hears a sound, for what is like it. @returns its number, or what is wrong with it in words */
export async function askWithSound(personId: number, name: string, body: Readable): Promise<{ readonly id: number } | string> {
  await sequelize.query(forgetAskedSql);
  let kept: { id: number; sha256: string; bytes: number };
  try {
    kept = await keepFile(Readable.from(bounded(body)), async ({ sha256, bytes }, transaction) => {
      const [[{ id }]] = (await sequelize.query(addAskedSql, { bind: [personId, name, sha256], transaction })) as [
        { id: number }[],
        unknown,
      ];
      return { id, sha256, bytes };
    });
  } catch (error) {
    if (error instanceof RangeError) return error.message;
    throw error;
  }
  const result = await analyseInPool(
    { fileSha256: kept.sha256, vendorPath: name },
    { name: `asked-${kept.id}`, bytes: kept.bytes },
  ).finally(() => sequelize.query(heardAskedSql, { bind: [kept.id, null, null] }));
  await dropUnreferred([kept.sha256]);
  if (!result.ok) return result.message;
  const { likeness, detail } = result.measures,
    profile = profileOf(detail);
  await sequelize.query(heardAskedSql, {
    bind: [kept.id, likeness && Buffer.from(likeness.buffer, likeness.byteOffset, likeness.byteLength), profile && Buffer.from(profile)],
  });
  return { id: kept.id };
}

/** What was heard of a sound that this person asked with; null for none. */
export async function askedSound(id: number, personId: number): Promise<AskedSound | null> {
  const [sound] = await selectRows<AskedSound>(askedSoundSql, [id, personId]);
  return sound ?? null;
}
