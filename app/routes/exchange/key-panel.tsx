import { useEffect, useRef } from 'react';
import { useFetcher } from 'react-router';
import { api, refusalOf } from '~/ui/api';

interface Props {
  readonly source: { readonly id: string; readonly name: string; readonly keyUrl: string };
  readonly hasKey: boolean;
}

/** The person's key for an exchange: kept sealed, never shown again. */
export function KeyPanel({ source, hasKey }: Props) {
  const { id: sourceId, name: sourceName, keyUrl } = source,
    fetcher = useFetcher<unknown>(),
    form = useRef<HTMLFormElement>(null),
    refusal = refusalOf(fetcher.data);
  useEffect(() => {
    if (fetcher.state === 'idle' && fetcher.data && !refusal) form.current?.reset();
  }, [fetcher.state, fetcher.data, refusal]);
  return (
    <section className="panel p-4" aria-labelledby="key-title">
      <h2 id="key-title">Your key there</h2>
      <p className="quiet mt-1">
        {hasKey
          ? `${sourceName} knows you. Searching and hearing go without a key; taking files counts against your day there.`
          : `Search and hear without one. To take files, enter the key that ${sourceName} gave you. `}
        {!hasKey && (
          <a href={keyUrl} target="_blank" rel="noreferrer" className="link">
            Get one there
          </a>
        )}
      </p>
      <fetcher.Form ref={form} method="put" action={api.exchangeKey(sourceId)} className="mt-3 flex gap-2">
        <input
          name="key"
          type="password"
          autoComplete="off"
          className="input min-w-0 flex-1"
          aria-label={`Key for ${sourceName}`}
          placeholder={hasKey ? 'another key' : 'pebble-…'}
        />
        <button className="btn btn-sm self-center">Keep</button>
      </fetcher.Form>
      {refusal && (
        <p className="text-error mt-1" role="alert">
          {refusal}
        </p>
      )}
      {hasKey && (
        <button className="link mt-2" onClick={() => void fetcher.submit(null, { method: 'delete', action: api.exchangeKey(sourceId) })}>
          Take the key away
        </button>
      )}
    </section>
  );
}
