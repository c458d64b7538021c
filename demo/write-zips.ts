import { resolve } from 'node:path';
import { demoPacks } from './packs';
import { writeZips } from './zips';

/** `npm run demo:zips [-- FOLDER]`: the vendors' zips, for trying the import by hand. */
async function main(): Promise<void> {
  const dir = resolve(process.argv[2] ?? 'demo-zips');
  const paths = await writeZips(demoPacks(), dir, 2, (done, total) => process.stdout.write(`\r${done} of ${total} files`));
  process.stdout.write(`\n${paths.join('\n')}\n`);
}

void main();
