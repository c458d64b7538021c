import { useState } from 'react';
import { Pin, Share2, X } from 'lucide-react';
import { Link, useSearchParams } from 'react-router';
import { queryToParameters, type LoopQuery } from '~core/search/query';
import { api } from '~/ui/api';
import { askOrTell, withForm, type Fields } from '~/ui/ask';
import { toast } from '~/ui/toast';
import { Popover } from '~/ui/popover';
import type { KeptSearch } from '~server/services/searches.server';
import { queryInWords } from '~/ui/query-words';
import { refreshSearches, useSearchLists } from './search-lists';
import { besideQuery } from './view';

/** Searches under a name, one's own and shared ones, and what was looked for last. */
export function SearchesPopover({ query }: { query: LoopQuery }) {
  return (
    <Popover label="Searches" hint="Searches, kept and recent">
      <Lists query={query} />
    </Popover>
  );
}

function Lists({ query }: { query: LoopQuery }) {
  const lists = useSearchLists(),
    [name, setName] = useState(''),
    [parameters] = useSearchParams(),
    address = new URLSearchParams(queryToParameters(query)).toString();
  const act = async <T,>(to: string, method: 'post' | 'put' | 'delete', fields: Fields = {}): Promise<T | null> => {
    const answer = await askOrTell<T>(to, withForm(method, fields), 'That could not be done.');
    await refreshSearches();
    return answer;
  };
  // What is refused keeps its name in the field.
  const keep = async () => {
    if (await act(api.searches, 'post', { name, address })) setName('');
  };
  const makeCollection = async () => {
    if (!(await act(api.collections, 'post', { name, rule: address }))) return;
    toast(`“${name.trim()}” is a collection now: whatever this search finds.`);
    setName('');
  };
  const forget = async (search: KeptSearch) => {
    if (!(await act(api.search(search.id), 'delete'))) return;
    const keepAgain = async () => {
      const kept = await act<{ id: number }>(api.searches, 'post', { name: search.name, address: search.address });
      if (kept && (search.isPinned || search.isShared))
        await act(api.search(kept.id), 'put', { isPinned: search.isPinned ? '1' : '0', isShared: search.isShared ? '1' : '0' });
    };
    toast(`Forgotten: ${search.name}.`, { action: { label: 'Undo', onClick: () => void keepAgain() } });
  };
  const to = (searched: string) => `/?${new URLSearchParams([...new URLSearchParams(searched), ...besideQuery(parameters)])}`;
  return (
    <div className="max-h-[28rem] overflow-y-auto">
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <input
          className="input input-sm flex-1"
          aria-label="Name of this search"
          placeholder="Name this search"
          maxLength={120}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <button className="btn btn-sm btn-primary" disabled={name.trim() === '' || address === ''}>
          Keep
        </button>
        <button
          type="button"
          className="btn btn-sm"
          disabled={name.trim() === '' || address === ''}
          title="A collection that holds whatever this search finds, now and later"
          onClick={() => void makeCollection()}
        >
          As a collection
        </button>
      </form>
      {address === '' && <p className="quiet mt-1">Look for something first; then it can be kept here.</p>}
      {lists && lists.searches.length > 0 && (
        <ul className="mt-3 grid gap-0.5" aria-label="Kept searches">
          {lists.searches.map((search) => (
            <li key={search.id} className="flex items-center gap-1">
              <Link to={to(search.address)} className="link min-w-0 flex-1 truncate font-medium" title={queryInWords(search.address)}>
                {search.name}
                {!search.isOwn && <span className="quiet font-normal"> · {search.person}</span>}
              </Link>
              {search.isOwn && (
                <>
                  <button
                    className={`btn btn-xs btn-square ${search.isPinned ? 'btn-neutral' : 'btn-ghost'}`}
                    aria-pressed={search.isPinned}
                    aria-label={`Pin ${search.name}`}
                    title="Pin: stands in front"
                    onClick={() => void act(api.search(search.id), 'put', { isPinned: search.isPinned ? '0' : '1' })}
                  >
                    <Pin className="size-3.5" />
                  </button>
                  <button
                    className={`btn btn-xs btn-square ${search.isShared ? 'btn-neutral' : 'btn-ghost'}`}
                    aria-pressed={search.isShared}
                    aria-label={`Share ${search.name}`}
                    title="Share: everybody finds it here"
                    onClick={() => void act(api.search(search.id), 'put', { isShared: search.isShared ? '0' : '1' })}
                  >
                    <Share2 className="size-3.5" />
                  </button>
                  <button
                    className="btn btn-xs btn-ghost btn-square"
                    aria-label={`Forget ${search.name}`}
                    onClick={() => void forget(search)}
                  >
                    <X className="size-3.5" />
                  </button>
                </>
              )}
            </li>
          ))}
        </ul>
      )}
      {lists && lists.recent.length > 0 && (
        <>
          <h2 className="mt-3">Looked for last</h2>
          <ul className="mt-1 grid gap-0.5" aria-label="Recent searches">
            {lists.recent.map((each) => (
              <li key={each}>
                <Link to={to(each)} className="link block max-w-full truncate">
                  {queryInWords(each)}
                </Link>
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}
