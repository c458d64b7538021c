import { readLine } from '~core/search/line';
import type { LoopQuery } from '~core/search/query';
import { meantWords } from '~core/search/typos';
import { selectRows } from '../db/connection';
import {
  beginsSql,
  licencesSql,
  nearWordsSql,
  type LineContext,
  type PackLicence,
  type SearchProject,
} from '../db/queries/line-conditions';

/** A query with what it is read by: made once, however many questions are asked by it. */
export interface Search {
  readonly query: LoopQuery;
  readonly context: LineContext;
}

/** A query as a person asks it, in a project, with what its words were likely meant to be. */
export async function searchFor(query: LoopQuery, personId: number, project: SearchProject | null = null): Promise<Search> {
  const meant = new Map<string, readonly string[]>();
  for (const { meaning } of readLine(query.words).parts)
    if (meaning.kind === 'word' && !meant.has(meaning.word)) {
      const found = await likelyMeant(meaning.word);
      if (found.length > 0) meant.set(meaning.word, found);
    }
  const asksLicence = readLine(query.words).parts.some(({ meaning }) => meaning.kind === 'licence'),
    licences = asksLicence ? await selectRows<PackLicence>(licencesSql) : [];
  return { query, context: { personId, project, meant, licences } };
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
