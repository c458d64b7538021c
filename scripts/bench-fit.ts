// npm run bench:fit -- [--projects N]: how often a loop that was made for a project stands among the first ten, by the whole fit and by stretch and
// shift alone, in the same run.
import { parseArgs } from 'node:util';
import { findPlanted } from '../bench/search/planted';

const { values } = parseArgs({ options: { projects: { type: 'string', default: '200' } } }),
  { pitched, all } = findPlanted(Number(values.projects)),
  percent = (share: number) => `${(100 * share).toFixed(1)} %`;
for (const [name, { projects, byFit, byStretchAndShift }] of Object.entries({ 'pitched loops': pitched, 'all loops': all }))
  console.log(
    `${projects} projects, 2,000 others, among ${name}: in the first ten ${percent(byFit)} by fit, ${percent(byStretchAndShift)} by stretch and shift alone`,
  );
