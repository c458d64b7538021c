import { useEffect, useState } from 'react';
import { Pin } from 'lucide-react';
import { Link, useSearchParams } from 'react-router';
import { api } from '~/ui/api';
import { askingInOrder } from '~/ui/ask';
import type { KeptSearch } from '~server/services/searches.server';
import { queryInWords } from '~/ui/query-words';
import { besideQuery } from './view';

/** One's pinned searches, one click away. */
export function PinnedSearches() {
  const [parameters] = useSearchParams(),
    [inOrder] = useState(askingInOrder),
    [pinned, setPinned] = useState<readonly KeptSearch[]>([]);
  useEffect(() => {
    void inOrder<{ searches: KeptSearch[] }>(api.searches).then(
      (found) => found && setPinned(found.searches.filter(({ isPinned, isOwn }) => isPinned && isOwn)),
    );
  }, [inOrder, parameters]);
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
