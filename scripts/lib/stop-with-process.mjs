const toStop = new Set();
let isListening = false,
  isStopping = false;

async function stopAll(exitCode) {
  if (isStopping) return;
  isStopping = true;
  process.stdout.write('\nStopping …\n');
  await Promise.allSettled([...toStop].map((stop) => stop()));
  process.exit(exitCode);
}

/**
 * Has something stopped before this process ends, when it is told to end: without that, what it has started would be left running. Ctrl-C, `kill`
 * and a closed terminal are heard from the first call on. Returns what takes it off again.
 */
export function stopWithProcess(stop, exitCode = 1) {
  toStop.add(stop);
  if (!isListening) for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stopAll(exitCode));
  isListening = true;
  return () => toStop.delete(stop);
}
