import { AsyncLocalStorage } from 'node:async_hooks';

const wanted = new AsyncLocalStorage<AbortSignal>();

/** Does something for as long as somebody waits for it: reading that is under way when the signal fires ends in the database too. */
export const whileWanted = <T>(signal: AbortSignal, work: () => T): T => wanted.run(signal, work);

/** The signal that ends what is being done, if anything does. */
export const givenUp = (): AbortSignal | undefined => wanted.getStore();
