// npm run check-store -- [--contents] [--sweep]: holds the stored files against the database; with --contents reads each of them, with --sweep
// throws away what nothing refers to and is older than an hour.
import { sequelize } from '../server/db/connection';
import { migrate } from '../server/db/migrate';
import { checkStore, sweepStore } from '../server/storage/keeping.server';

await migrate();
if (process.argv.includes('--sweep'))
  console.log(`${await sweepStore(new Date(Date.now() - 3_600_000))} files that nothing refers to were deleted.`);
const { files, bytes, missing, unreferred, damaged } = await checkStore({ readContents: process.argv.includes('--contents') });
console.log(`${files} files, ${(bytes / 2 ** 30).toFixed(2)} GB.`);
for (const [words, hashes] of [
  ['missing', missing],
  ['referred to by nothing', unreferred],
  ['damaged', damaged],
] as const) {
  console.log(`${hashes.length} ${words}${hashes.length > 0 ? ':' : '.'}`);
  for (const hash of hashes.slice(0, 20)) console.log(`  ${hash}`);
}
await sequelize.close();
process.exitCode = missing.length + damaged.length > 0 ? 1 : 0;
