import { Stop } from './paths.mjs';

/** Runs a script's body; a `Stop` becomes one sentence and exit code 1. */
export async function main(body) {
  try {
    await body();
  } catch (error) {
    if (!(error instanceof Stop)) throw error;
    process.stderr.write(`\n${error.message}\n`);
    process.exitCode = 1;
  }
}
