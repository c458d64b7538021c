import type { LoopQuery } from '~core/search/query';
import type { FacetCounts } from '~contracts/facet-counts';
import { BarsChart } from './bars-chart';
import { FamilyChart } from './family-chart';
import { FifthsChart } from './fifths-chart';
import type { Change } from './frame';
import { TempoChart } from './tempo-chart';

/** Four charts that are filters: drag a tempo range, click keys, bars, families. */
export function Charts({ query, facets, onChange }: { query: LoopQuery; facets: FacetCounts; onChange: Change }) {
  return (
    <div className="grid shrink-0 grid-cols-[1.3fr_1fr_0.8fr_1.7fr] max-xl:grid-cols-[1.1fr_0.95fr_0.6fr_1.9fr] divide-x divide-base-300 border-b border-base-300">
      <TempoChart query={query} counts={facets.tempo} onChange={onChange} />
      <FifthsChart query={query} counts={facets.key} onChange={onChange} />
      <BarsChart query={query} counts={facets.bars} onChange={onChange} />
      <FamilyChart query={query} counts={facets.family} onChange={onChange} />
    </div>
  );
}
