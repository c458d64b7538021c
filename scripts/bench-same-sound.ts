// npm run bench:same-sound -- [--loops N]: how many copies (other container, depth, level, rate, lossy) of loops are known again by what is kept of their
// sound, and how many different loops, siblings among them, are taken for copies.
import { parseArgs } from 'node:util';
import { knowAgain } from '../bench/search/same-sound';
import { demoPacks } from '../demo/packs';
import { offeredLoops } from '../exchange/catalogue';

const { values } = parseArgs({ options: { loops: { type: 'string', default: '500' } } }),
  all = [
    ...demoPacks().flatMap(({ files }) => files.filter(({ format, truth }) => format !== 'midi' && truth.kind === 'loop')),
    ...offeredLoops.map(({ spec }) => spec),
  ],
  wanted = Math.min(Number(values.loops), all.length),
  // Spread over all of them, so that few loops are of every kind too.
  specs = Array.from({ length: wanted }, (_, k) => all[Math.floor((k * all.length) / wanted)]);
const { loops, copies, pairs, taken } = await knowAgain(specs, (done) => {
  if (done % 50 === 0) console.log(`${done} of ${wanted} …`);
});
const found = copies.reduce((sum, each) => sum + each.found, 0),
  percent = (share: number) => `${(100 * share).toFixed(2)} %`;
for (const { name, found: known, missed } of copies)
  console.log(`${name.padEnd(26)} ${percent(known / loops)}${missed.length > 0 ? `   not ${missed.slice(0, 5).join(', ')}` : ''}`);
console.log(`recall ${percent(found / (loops * copies.length))} of ${loops * copies.length} copies of ${loops} loops`);
console.log(
  `precision ${percent(found / Math.max(1, found + taken.length))}: ${taken.length} of ${pairs} pairs of different loops as long as each other taken for one`,
);
for (const pair of taken.slice(0, 20)) console.log(`  ${pair}`);
