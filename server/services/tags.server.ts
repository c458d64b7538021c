import { selectRows } from '../db/connection';
import { suggestedTagsSql } from '../db/queries/tags';

const mostSuggested = 12;

/** Tags that would suit what is made of some loops: theirs, then what their sound says, then what the group uses most. */
export const suggestedTags = async (loopIds: readonly number[]): Promise<string[]> =>
  (await selectRows<{ name: string }>(suggestedTagsSql, [[...loopIds], mostSuggested])).map(({ name }) => name);
