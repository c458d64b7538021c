import { useState } from 'react';
import { api } from '~/ui/api';
import { ask } from '~/ui/ask';
import { useRenewal } from '~/ui/use-renewal';

interface Props {
  readonly source: { readonly id: string; readonly name: string; readonly keyUrl: string };
  readonly hasKey: boolean;
}

/** The person's key for an exchange: kept sealed, never shown again. */
export function KeyPanel({ source, hasKey }: Props) {
  const { id: sourceId, name: sourceName, keyUrl } = source,
    renew = useRenewal(),
    [refusal, setRefusal] = useState<string | null>(null);
  /** Keeps a key, or with no form takes it away. */
  const say = async (node?: HTMLFormElement) => {
    const said = await ask(api.exchangeKey(sourceId), node ? { method: 'put', body: new FormData(node) } : { method: 'delete' });
    setRefusal(said.ok ? null : said.wrong);
    if (!said.ok) return;
    node?.reset();
    void renew();
  };
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
      <form
        className="mt-3 flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void say(event.currentTarget);
        }}
      >
        <input
          name="key"
          type="password"
          autoComplete="off"
          className="input min-w-0 flex-1"
          aria-label={`Key for ${sourceName}`}
          placeholder={hasKey ? 'another key' : 'pebble-…'}
        />
        <button className="btn btn-sm self-center">Keep</button>
      </form>
      {refusal && (
        <p className="text-error mt-1" role="alert">
          {refusal}
        </p>
      )}
      {hasKey && (
        <button className="link mt-2" onClick={() => void say()}>
          Take the key away
        </button>
      )}
    </section>
  );
}
