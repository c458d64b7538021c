import { useState } from 'react';
import { ArrowDown, ArrowUp } from 'lucide-react';
import type { FitWeights as Weights } from '~core/search/fit/weights';
import { fallsAtFirst, sortColumns, type LoopQuery, type SortColumn } from '~core/search/query';
import { useProject } from '~/ui/project-store';
import type { Found } from '~server/services/look-up.server';
import { FitWeights } from './fit-weights';
import { SearchesPopover } from './searches-popover';
import { TapPopover } from './tap-popover';
import { views, type View } from './view';

const orders: Readonly<Record<SortColumn, string>> = {
  fit: 'fit',
  added: 'added',
  heard: 'last heard',
  likeness: 'likeness',
  title: 'title',
  instrument: 'instrument',
  tempo: 'tempo',
  key: 'key',
  bars: 'bars',
  length: 'length',
  loudness: 'loudness',
  kind: 'kind',
  pack: 'pack',
};

/** How the result is shown and ordered, and what the section lacks. */
export function ListBar({
  query,
  view,
  found,
  weights,
  onChange,
  onView,
  onJump,
}: {
  query: LoopQuery;
  view: View;
  found: Found;
  weights: Weights;
  onChange: (changes: Partial<LoopQuery>) => void;
  onView: (view: View) => void;
  onJump: (to: string) => void;
}) {
  const hasProject = useProject((state) => state.project !== null);
  return (
    <div
      className="flex min-h-9 shrink-0 flex-wrap text-[0.86rem] items-center gap-x-3 gap-y-1 border-b border-base-300 px-3 py-1"
      role="toolbar"
      aria-label="Order and view"
    >
      <div className="join" role="radiogroup" aria-label="Shown as">
        {(Object.keys(views) as View[]).map((each) => (
          <button
            key={each}
            role="radio"
            aria-checked={view === each}
            className={`btn btn-xs join-item ${view === each ? 'btn-neutral' : ''}`}
            onClick={() => onView(each)}
          >
            {views[each]}
          </button>
        ))}
      </div>
      <label className="flex items-center gap-1.5">
        <span className="quiet">ordered by</span>
        <select
          className="select select-xs w-28"
          aria-label="Ordered by"
          value={query.sort}
          onChange={(event) => {
            const sort = event.target.value as SortColumn;
            onChange({ sort, descending: fallsAtFirst(sort) });
          }}
        >
          {sortColumns
            .filter(
              (sort) =>
                (sort !== 'likeness' || query.near !== null) &&
                (sort !== 'fit' || hasProject || query.near !== null || query.sort === 'fit'),
            )
            .map((sort) => (
              <option key={sort} value={sort}>
                {orders[sort]}
              </option>
            ))}
        </select>
        <button
          className="btn btn-ghost btn-xs btn-square"
          aria-label={query.descending ? 'Falling; turn round' : 'Rising; turn round'}
          onClick={() => onChange({ descending: !query.descending })}
        >
          {query.descending ? <ArrowDown className="size-3.5" /> : <ArrowUp className="size-3.5" />}
        </button>
      </label>
      {view === 'list' && <JumpField query={query} onJump={onJump} />}
      <SearchesPopover query={query} />
      <TapPopover onFind={(near) => onChange({ near, sort: 'likeness', descending: true })} />
      {hasProject && <FitWeights weights={weights} />}
      {hasProject && found.gaps.length > 0 && (
        <span className="flex items-center gap-1.5" role="group" aria-label="What this part of the project lacks">
          <span className="quiet">missing here</span>
          {found.gaps.map(({ label, families, brightness }) => (
            <button
              key={label}
              className="btn btn-xs"
              onClick={() =>
                onChange({
                  chosen: families.length > 0 ? { ...query.chosen, family: families } : query.chosen,
                  ranges: brightness ? { ...query.ranges, brightness } : query.ranges,
                  sort: 'fit',
                  descending: true,
                })
              }
            >
              {label}
            </button>
          ))}
        </span>
      )}
      {found.readingLoops !== null && (
        <span className="quiet ml-auto" role="status">
          The library is being read into memory ({found.readingLoops.toLocaleString('en')} loops so far): likeness, map and groups come with
          it.
        </span>
      )}
    </div>
  );
}

/** Goes to a letter, or to a number of what the list is ordered by. */
function JumpField({ query, onJump }: { query: LoopQuery; onJump: (to: string) => void }) {
  const [text, setText] = useState('');
  const isText = ['title', 'pack', 'kind', 'instrument'].includes(query.sort),
    isNumber = ['tempo', 'bars', 'length', 'loudness', 'fit'].includes(query.sort);
  if (!isText && !isNumber) return null;
  return (
    <form
      className="flex items-center gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim()) onJump(text.trim().toLowerCase());
      }}
    >
      <input
        className="input input-xs w-28"
        aria-label={isText ? 'Go to a letter' : `Go to a ${query.sort}`}
        placeholder={isText ? 'to a letter' : `to a ${query.sort === 'tempo' ? 'tempo' : 'number'}`}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
    </form>
  );
}
