import { max } from 'd3';
import { chosenOf, toggled } from '~core/search/query';
import { families, type Family } from '~core/theory/instruments';
import type { LoopQuery } from '~core/search/query';
import type { FacetCounts } from '~contracts/facet-counts';
import { Frame, shortCount, type Change } from './frame';

/** Families of instruments, the commonest first. */
export function FamilyChart({ query, counts, onChange }: { query: LoopQuery; counts: FacetCounts['family']; onChange: Change }) {
  const rows = [...counts].sort((a, b) => b.count - a.count).slice(0, 14),
    most = max(rows, (row) => row.count) ?? 1;
  return (
    <Frame title="Instruments" hint="click">
      <div className="grid h-28 grid-flow-col grid-rows-4 content-start gap-x-1 gap-y-0.5 overflow-hidden py-0.5">
        {rows.map(({ value, count }) => {
          const family = value as Family,
            chosen = chosenOf(query, 'family').includes(family);
          return (
            <button
              key={value}
              aria-pressed={chosen}
              className={`flex h-6 min-w-0 items-center gap-1 rounded-sm px-1 text-left text-[0.82rem] hover:bg-base-200 ${chosen ? 'bg-base-300 font-semibold' : ''} ${count === 0 && !chosen ? 'quiet' : ''}`}
              onClick={() => onChange({ chosen: toggled(query, 'family', family) })}
            >
              <span className="w-3 text-center font-semibold" style={{ color: `var(--family-${family})` }} aria-hidden="true">
                {families[family].letter}
              </span>
              <span className="min-w-0 flex-1 truncate">{families[family].label}</span>
              <span
                className="h-2 shrink-0 max-xl:hidden"
                style={{ width: `${Math.max(2, (count / most) * 18)}px`, background: `var(--family-${family})` }}
                aria-hidden="true"
              />
              <span className="shrink-0 text-right">{shortCount(count)}</span>
            </button>
          );
        })}
      </div>
    </Frame>
  );
}
