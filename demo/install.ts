import { createReadStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { config } from '../server/config.server';
import { migrate } from '../server/db/migrate';
import { selectRows, sequelize } from '../server/db/connection';
import { closePool } from '../server/jobs/pool/pool.server';
import { closeQueue } from '../server/jobs/queue.server';
import { startRunner } from '../server/jobs/runner.server';
import { listBatches } from '../server/services/imports/progress.server';
import { openBatch, receiveFile, startBatch } from '../server/services/imports/receive.server';
import { addPerson } from '../server/services/people.server';
import { createProject } from '../server/services/projects.server';
import { setFavourite, setTag } from '../server/services/loops.server';
import { demoPacks } from './packs';
import { demoPeople } from './people';
import { demoProjects } from './projects';
import { writeZips } from './zips';

const inPlace = process.stdout.isTTY;
let lastLine = 0;
/** Progress in place on a terminal; in a log a line every few seconds. */
function progress(text: string, last = false): void {
  if (inPlace) process.stdout.write(`\r  ${text.padEnd(60)}${last ? '\n' : ''}`);
  else if (last || Date.now() - lastLine > 5000) {
    lastLine = Date.now();
    process.stdout.write(`  ${text}\n`);
  }
}

/** Makes the demo library: people, the vendors' zips through the same import as anybody's, two projects. Does nothing when it is there. */
async function install(): Promise<void> {
  await migrate();
  const [there] = await selectRows("select 1 from settings where name = 'demo'");
  if (there) return;
  const ids: number[] = [];
  for (const { name, password, role } of demoPeople) {
    const added = await addPerson(name, password, null, role);
    if (added.ok) ids.push(added.id);
    else ids.push((await selectRows<{ id: number }>('select id from people where name = $1', [name]))[0].id);
  }
  const packs = demoPacks(),
    dir = join(config.dataDir, 'demo-zips');
  const zips = await writeZips(packs, dir, config.poolThreads, (done, total) =>
    progress(`playing the demo’s loops: ${done} of ${total}`, done === total),
  );
  const runner = await startRunner();
  for (const [index, zip] of zips.entries()) {
    const { name, vendor, licence, description } = packs[index],
      person = ids[index % ids.length];
    const [done] = await selectRows("select 1 from import_batches where pack_name = $1 and state = 'done'", [name]);
    if (done) continue;
    const batch = await openBatch({ packName: name, vendor, licence, description }, person);
    await receiveFile(batch, person, basename(zip), createReadStream(zip));
    await startBatch(batch, person);
    for (;;) {
      const current = (await listBatches(50)).find((each) => each.id === batch);
      const finished = current?.state === 'done' || current?.state === 'failed';
      progress(
        `importing “${name}”: ${(current?.total ?? 0) - (current?.counts.queued ?? 0) - (current?.counts.working ?? 0)} of ${current?.total ?? 0}`,
        finished,
      );
      if (finished) break;
      await new Promise((next) => setTimeout(next, 250));
    }
  }
  await furnish(ids);
  await runner.stop();
  await sequelize.query("insert into settings (name, value) values ('demo', '{\"version\": 1}')");
  await rm(dir, { recursive: true, force: true });
}

/** Projects, favourites and tags. */
async function furnish(people: readonly number[]): Promise<void> {
  const loops = await selectRows<{ id: number; path: string }>('select id, vendor_path as path from loops');
  const find = (ending: string): number => {
    const found = loops.find((loop) => loop.path.endsWith(ending));
    if (!found) throw new Error(`The demo's projects need ${ending}, which did not come in.`);
    return found.id;
  };
  for (const project of demoProjects(find)) await createProject(project, people[0]);
  for (const ending of ['TRK_LanternWalk_96_A1.wav', 'Nylon/WWG Nylon Guitar 96 Fm A.wav', 'Pads/Pad Kelp Fm.ogg', 'NPB Flute 96 Fm.wav']) {
    await setFavourite(people[0], find(ending), true);
    await setTag(find(ending), 'night ferry', true, people[0]);
  }
  for (const ending of ['TRK_Piston_124_A1.wav', 'NPB Marimba 124 Dm.wav']) await setTag(find(ending), 'engine', true, people[1]);
}

install().then(
  async () => {
    await closePool();
    await closeQueue();
    await sequelize.close();
    process.exit(0);
  },
  (error) => {
    console.error(error);
    process.exit(1);
  },
);
