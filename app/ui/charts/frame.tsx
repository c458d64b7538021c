import type { KeyboardEvent, ReactNode } from 'react';
import type { LoopQuery } from '~core/search/query';

/** A chart changes the query that it shows. */
export type Change = (changes: Partial<LoopQuery>, replace?: boolean) => void;
export const chartHeight = 104;

/** A chart with its name, and what can be done with it. */
export function Frame({ title, hint, children }: { title: string; hint: string; children: ReactNode }) {
  return (
    <section className="flex min-w-0 flex-col px-3 py-1.5" aria-label={`${title} filter`}>
      <h2 className="caps flex justify-between">
        {title}
        <span className="font-normal">{hint}</span>
      </h2>
      {children}
    </section>
  );
}

const compact = new Intl.NumberFormat('en', { notation: 'compact', maximumFractionDigits: 0 });

/** A count as there is room for: `257`, `22K`. */
export const shortCount = (count: number): string => (count < 10_000 ? String(count) : compact.format(count));

/** A mark of a chart as a switch of the filter: by click, Enter or Space, which do nothing else meanwhile. */
export const switchMark = (chosen: boolean, press: () => void) => ({
  role: 'button',
  tabIndex: 0,
  'aria-pressed': chosen,
  className: 'cursor-pointer',
  onClick: press,
  onKeyDown: (event: KeyboardEvent) => {
    if (event.key !== 'Enter' && event.key !== ' ') return;
    event.preventDefault();
    event.stopPropagation();
    press();
  },
});
