import { checkNode, ensurePackages } from './lib/packages.mjs';
import { ensureBuild } from './lib/build.mjs';

checkNode();
ensurePackages();
await ensureBuild();
