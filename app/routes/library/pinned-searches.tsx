import { Pin } from 'lucide-react';
import { Link, useSearchParams } from 'react-router';
import { queryInWords } from '~/ui/query-words';
import { useSearchLists } from './search-lists';
import { besideQuery } from './view';

/** One's pinned searches, one click away. */
export function PinnedSearches() {
  const [parameters] = useSearchParams(),
    pinned = useSearchLists()?.searches.filter(({ isPinned, isOwn }) => isPinned && isOwn) ?? [];
  return pinned.map(({ id, name, address }) => (
    <Link
      key={id}
      to={`/?${new URLSearchParams([...new URLSearchParams(address), ...besideQuery(parameters)])}`}
      className="btn btn-sm btn-ghost max-w-40"
      title={queryInWords(address)}
    >
      <Pin className="size-3.5" aria-hidden="true" /> <span className="truncate">{name}</span>
    </Link>
  ));
}
