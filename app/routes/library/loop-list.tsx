import { useEffect, useRef, useState } from 'react';
import { useVirtualizer, type Range } from '@tanstack/react-virtual';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { useFetcher } from 'react-router';
import { RoomLink, useRoomNavigate } from '~/ui/room-link';
import { hasFilters, queryToParameters, type LoopQuery, type SortColumn } from '~core/search/query';
import { useEngine, useEngineState } from '~/audio/hooks';
import { api, putOrDelete } from '~/ui/api';
import { useChangedLoops } from '~/ui/changed-loops';
import { usePlace } from '~/ui/place';
import { useProject } from '~/ui/project-store';
import type { LoopCard } from '~contracts/loop-card';
import type { WholeLoop } from '~contracts/whole-loop';
import { wholeLoops } from '~/ui/whole-loops';
import type { LoopPage } from '~server/services/search.server';
import { ChosenBar } from './chosen-bar';
import { columns, roomy } from './columns';
import { LoopListRow, type RowActs } from './loop-row';
import { revealedTop } from './reveal';
import { useChoice } from './use-choice';
import { usePages } from './use-pages';

const rowHeight = 42;

/**
 * As many rows at every place in the list. With keys that go round, a row that leaves at the top is the one that comes in at the
 * bottom: its elements stay and only its words change, which costs half of making them anew.
 */
function sameCount(most: { current: number }) {
  return ({ startIndex, endIndex, overscan, count }: Range): number[] => {
    most.current = Math.max(most.current, endIndex - startIndex + 1 + 2 * overscan);
    const size = Math.min(count, most.current),
      from = Math.max(0, Math.min(count - size, startIndex - overscan));
    return Array.from({ length: size }, (_, k) => from + k);
  };
}

const heads: readonly { readonly sort: SortColumn | null; readonly label: string; readonly className?: string }[] = [
  { sort: 'length', label: 'Sound' },
  { sort: 'title', label: 'Title' },
  { sort: 'instrument', label: 'Instrument' },
  { sort: 'tempo', label: 'Tempo' },
  { sort: 'key', label: 'Key' },
  { sort: 'bars', label: 'Bars', className: 'justify-end' },
  { sort: 'pack', label: 'Pack' },
  { sort: 'added', label: 'Added', className: roomy },
  { sort: 'fit', label: 'Fit', className: 'justify-end' },
  { sort: null, label: '' },
];

/** The list: virtual, page by page; arrows move and audition, Enter places. */
export function LoopList({
  query,
  first,
  total,
  onChange,
}: {
  query: LoopQuery;
  first: LoopPage;
  total: number;
  onChange: (changes: Partial<LoopQuery>) => void;
}) {
  const engine = useEngine(),
    place = usePlace(),
    navigate = useRoomNavigate(),
    fetcher = useFetcher();
  const project = useProject((state) => state.project),
    // Blind, the list must not point at the one that sounds.
    soundingId = useEngineState((state) => (state.shortlist.blind ? null : (state.candidate?.row.id ?? null)));
  const choice = useChoice(new URLSearchParams(queryToParameters(query)).toString(), total),
    { rowAt, has, want, patch } = usePages(query, first),
    scroller = useRef<HTMLDivElement>(null),
    [selected, setSelected] = useState(-1),
    [rangeExtractor] = useState(() => sameCount({ current: 0 }));
  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualizer's functions change with its state, as they should
  const virtual = useVirtualizer({
    count: total,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 6,
    initialRect: { width: 1280, height: 420 },
    rangeExtractor,
    useFlushSync: false,
  });
  useChangedLoops(has, (rows) => rows.forEach((row) => patch(row.id, row)));
  const items = virtual.getVirtualItems(),
    top = items[0]?.index ?? 0,
    bottom = items.at(-1)?.index ?? 0;
  useEffect(() => {
    if (total > 0) want(top, bottom);
  }, [want, top, bottom, total, first]);
  useEffect(() => {
    setSelected(-1);
    scroller.current?.scrollTo({ top: 0 });
  }, [query]);

  const ahead = (index: number) =>
    void wholeLoops()
      .many([1, -1, 2, 3].map((step) => rowAt(index + step)).filter((row): row is LoopCard => row !== null))
      .then((rows) => engine.audition.prefetch(rows));
  // Of several that are asked for only the last is heard, whichever comes first.
  const asked = useRef(0),
    withWhole = (row: LoopCard, use: (whole: WholeLoop) => void) => {
      const turn = ++asked.current;
      void wholeLoops()
        .of(row)
        .then((whole) => whole && turn === asked.current && use(whole));
    };
  /** Puts the cursor on a row, and the row in sight. */
  const reveal = (next: number) => {
    setSelected(next);
    const view = { rowHeight, top: virtual.scrollOffset ?? 0, height: virtual.scrollRect?.height ?? 0 },
      wanted = revealedTop(next, view);
    if (wanted !== view.top && scroller.current) scroller.current.scrollTop = wanted;
  };
  const move = (index: number) => {
    const next = Math.max(0, Math.min(total - 1, index)),
      row = rowAt(next);
    reveal(next);
    if (row) {
      withWhole(row, (whole) => void engine.audition.start(whole));
      ahead(next);
    } else want(next, next);
  };
  const latestMove = useRef((_: 1 | -1): void => {});
  useEffect(() => {
    latestMove.current = (delta) => move(selected + delta >= total ? 0 : selected + delta);
  });
  useEffect(() => {
    engine.audition.handsFree.setList((delta) => latestMove.current(delta));
    return () => engine.audition.handsFree.setList(null);
  }, [engine]);
  const toggleFavourite = (row: LoopCard) => {
    patch(row.id, { favourite: !row.favourite });
    void fetcher.submit({}, { method: putOrDelete(!row.favourite), action: api.favourite(row.id) });
  };
  const toggle = (index: number, row: LoopCard) => {
    setSelected(index);
    scroller.current?.focus({ preventScroll: true });
    withWhole(row, (whole) => engine.audition.toggle(whole));
    ahead(index);
  };
  const placeWhole = (row: LoopCard) => withWhole(row, (whole) => place({ row: whole }));
  // Rows keep the same functions while the list scrolls under them; else each step would draw every row anew.
  const click: RowActs['click'] = (index, row, keys) => {
    if (!keys.adds && !keys.extends) return toggle(index, row);
    setSelected(index);
    scroller.current?.focus({ preventScroll: true });
    if (keys.extends) void choice.extendTo(index);
    else choice.toggle(index, row.id);
  };
  const latest = useRef({ click, placeWhole, toggleFavourite });
  useEffect(() => {
    latest.current = { click, placeWhole, toggleFavourite };
  });
  const [acts] = useState<RowActs>(() => ({
    click: (index, row, keys) => latest.current.click(index, row, keys),
    place: (row) => latest.current.placeWhole(row),
    favourite: (row) => latest.current.toggleFavourite(row),
  }));
  const onKeyDown = (event: React.KeyboardEvent) => {
    if (event.target !== event.currentTarget) return;
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'a') {
      event.preventDefault();
      return choice.chooseAll();
    }
    if (event.ctrlKey || event.metaKey) return;
    const row = selected >= 0 ? rowAt(selected) : null;
    const moves: Readonly<Record<string, number>> = {
      ArrowDown: selected + 1,
      ArrowUp: selected - 1,
      PageDown: selected + 8,
      PageUp: selected - 8,
      End: total - 1,
    };
    if (event.shiftKey && (event.key === 'ArrowDown' || event.key === 'ArrowUp')) {
      event.preventDefault();
      const next = Math.max(0, Math.min(total - 1, moves[event.key]));
      if (choice.count === 0 && row) choice.toggle(selected, row.id);
      reveal(next);
      void choice.extendTo(next);
    } else if (event.key in moves) {
      event.preventDefault();
      move(moves[event.key]);
    } else if (event.key === 'Escape' && choice.count > 0) {
      event.stopPropagation();
      choice.clear();
    } else if (row && event.key.toLowerCase() === 'x') choice.toggle(selected, row.id);
    else if (row && event.key === 'Enter') {
      event.preventDefault();
      placeWhole(row);
    } else if (row && event.key.toLowerCase() === 'f') toggleFavourite(row);
    else if (row && event.key.toLowerCase() === 'o') navigate(`/loops/${row.id}`);
  };
  return (
    <section aria-label="Loops" className="flex min-h-0 flex-1 flex-col">
      <ChosenBar choice={choice} total={total} />
      <div className={`${columns} h-7 shrink-0 border-b border-base-300 bg-base-200 pr-6`}>
        {heads.map(({ sort, label, className }) =>
          sort === null ? (
            <span key="end" />
          ) : (
            <button
              key={sort}
              className={`caps flex items-center gap-0.5 ${className ?? ''}`}
              aria-label={`Sort by ${label}${query.sort === sort ? (query.descending ? ', now falling' : ', now rising') : ''}`}
              onClick={() => onChange({ sort, descending: query.sort === sort ? !query.descending : sort === 'added' || sort === 'fit' })}
            >
              {label}
              {query.sort === sort &&
                (query.descending ? (
                  <ArrowDown className="size-3.5" aria-hidden="true" />
                ) : (
                  <ArrowUp className="size-3.5" aria-hidden="true" />
                ))}
            </button>
          ),
        )}
      </div>
      {total === 0 ? (
        <Empty query={query} />
      ) : (
        <div
          ref={scroller}
          data-loop-list
          tabIndex={0}
          role="grid"
          aria-multiselectable="true"
          aria-rowcount={total}
          aria-label="Loops; arrows move and audition, Enter places"
          aria-activedescendant={selected >= 0 ? `loop-${selected}` : undefined}
          className="min-h-0 flex-1 overflow-y-scroll outline-offset-[-2px]"
          onKeyDown={onKeyDown}
          onFocus={(event) => {
            if (event.target === event.currentTarget && selected < 0) setSelected(top);
          }}
        >
          <div style={{ height: virtual.getTotalSize(), position: 'relative' }}>
            {items.map((item) => (
              <div key={item.key} className="absolute inset-x-0" style={{ top: item.start, height: rowHeight, contain: 'strict' }}>
                <LoopListRow
                  index={item.index}
                  row={rowAt(item.index)}
                  selected={item.index === selected}
                  chosen={choice.has(rowAt(item.index)?.id ?? 0)}
                  sounding={soundingId !== null && rowAt(item.index)?.id === soundingId}
                  project={project}
                  acts={acts}
                />
              </div>
            ))}
          </div>
        </div>
      )}
    </section>
  );
}

function Empty({ query }: { query: LoopQuery }) {
  return (
    <div className="flex flex-1 flex-col items-center justify-center gap-2 text-center">
      {hasFilters(query) ? (
        <>
          <p className="text-lg font-semibold">Nothing fits all of that.</p>
          <p className="quiet">Take a step back: remove a chip or a word above, or clear all.</p>
        </>
      ) : (
        <>
          <p className="text-lg font-semibold">The library is empty.</p>
          <p className="quiet">Bring in a vendor’s zip or a folder of loops.</p>
          <RoomLink to="/packs" className="btn btn-primary btn-sm mt-2">
            Import a pack
          </RoomLink>
        </>
      )}
    </div>
  );
}
