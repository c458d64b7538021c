import { readLine } from '~core/search/line';
import type { LoopQuery } from '~core/search/query';
import { meantWords } from '~core/search/typos';
import { selectRows } from '../db/connection';
import { beginsSql, nearWordsSql, type LineContext, type SearchProject } from '../db/queries/line-conditions';

/** What a query is searched by: who asks, in which project, and what its words were likely meant to be. */
export async function searchContext(query: LoopQuery, personId: number, project: SearchProject | null): Promise<LineContext> {
  const meant = new Map<string, readonly string[]>();
  for (const { meaning } of readLine(query.words).parts)
    if (meaning.kind === 'word' && !meant.has(meaning.word)) {
      const found = await likelyMeant(meaning.word);
      if (found.length > 0) meant.set(meaning.word, found);
    }
  return { personId, project, meant };
}

const highest = '\u{10ffff}';

/** Words for one that none begins with; none where one does. */
async function likelyMeant(word: string): Promise<string[]> {
  const [{ begins }] = await selectRows<{ begins: boolean }>(beginsSql, [word, word + highest]);
  if (begins) return [];
  const near = await selectRows<{ word: string }>(nearWordsSql, [word]);
  return meantWords(
    word,
    near.map((each) => each.word),
  );
}
