import { join } from 'node:path';
import { config } from '../../config.server';
import { selectRows, sequelize } from '../../db/connection';
import { dropKeySql, keepKeySql, keyOfSql } from '../../db/queries/exchange';
import { seal, secretAt, unseal } from '../../exchange/sealed';

const secret = (): Buffer => secretAt(join(config.dataDir, 'exchange-secret'));

/** Keeps a person's key for a source, so that only this installation can read it. '' takes it away. */
export async function keepKey(personId: number, source: string, key: string): Promise<void> {
  if (key === '') await sequelize.query(dropKeySql, { bind: [personId, source] });
  else await sequelize.query(keepKeySql, { bind: [personId, source, seal(key, secret())] });
}

/** A person's key for a source; null without one, or when the secret is another. */
export async function keyOf(personId: number, source: string): Promise<string | null> {
  const [row] = await selectRows<{ sealed: Buffer }>(keyOfSql, [personId, source]);
  return row ? unseal(row.sealed, secret()) : null;
}
