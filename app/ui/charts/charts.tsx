import { useSyncExternalStore } from 'react';
import { ChevronDown, ChevronUp } from 'lucide-react';
import type { ColourCell } from '~core/search/index/colour-cells';
import type { LoopQuery } from '~core/search/query';
import type { FacetCounts } from '~contracts/facet-counts';
import { BarsChart } from './bars-chart';
import { ColourChart } from './colour-chart';
import { FamilyChart } from './family-chart';
import { FifthsChart } from './fifths-chart';
import type { Change } from './frame';
import { TempoChart } from './tempo-chart';

const foldedName = 'charts-folded',
  listeners = new Set<() => void>(),
  readFolded = (): boolean => localStorage.getItem(foldedName) === '1',
  hearFolded = (listener: () => void) => {
    listeners.add(listener);
    return () => void listeners.delete(listener);
  };

/** Five charts that are filters: drag a tempo range, click keys, bars, families, brush brightness against density. They fold away for a longer list. */
export function Charts({
  query,
  facets,
  colour,
  onChange,
}: {
  query: LoopQuery;
  facets: FacetCounts;
  colour: readonly ColourCell[] | null;
  onChange: Change;
}) {
  // What this browser chose last; the server can't know.
  const isFolded = useSyncExternalStore(hearFolded, readFolded, () => false),
    fold = (next: boolean) => {
      localStorage.setItem(foldedName, next ? '1' : '0');
      for (const listener of listeners) listener();
    };
  return (
    <div className="relative shrink-0 border-b border-base-300">
      {!isFolded && (
        <div className="grid grid-cols-[1.2fr_0.95fr_0.7fr_0.75fr_1.5fr] divide-x divide-base-300 max-xl:grid-cols-[1.1fr_0.95fr_0.6fr_0.7fr_1.7fr]">
          <TempoChart query={query} counts={facets.tempo ?? []} onChange={onChange} />
          <FifthsChart query={query} counts={facets.key ?? []} onChange={onChange} />
          <BarsChart query={query} counts={facets.bars ?? []} onChange={onChange} />
          <ColourChart query={query} cells={colour} onChange={onChange} />
          <FamilyChart query={query} counts={facets.family ?? []} onChange={onChange} />
        </div>
      )}
      <button
        className={`flex h-5 w-full items-center justify-center gap-1 text-[0.79rem] hover:bg-base-200 ${isFolded ? '' : 'border-t border-base-200'}`}
        aria-expanded={!isFolded}
        onClick={() => fold(!isFolded)}
      >
        {isFolded ? <ChevronDown className="size-3.5" aria-hidden="true" /> : <ChevronUp className="size-3.5" aria-hidden="true" />}
        <span className="quiet">{isFolded ? 'charts' : 'fold the charts away'}</span>
      </button>
    </div>
  );
}
