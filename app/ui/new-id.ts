import { nanoid } from 'nanoid';

/** A name for a thing that is made here. Not the browser's own UUIDs: those are not to be had over plain HTTP from another machine. */
export const newId = (): string => nanoid();
