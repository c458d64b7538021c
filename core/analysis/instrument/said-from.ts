/** Above this chance a family is said to sound. By itself, so that pages need no weights to know it. */
export const saidFrom = 0.5;
