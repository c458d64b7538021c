import { useCallback, useEffect, useImperativeHandle, useRef, useState } from 'react';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { useRoomNavigate } from '~/ui/room-link';
import { emptyQuery, fallsAtFirst, queryToParameters, type LoopQuery, type Near, type SortColumn } from '~core/search/query';
import { inRoom } from '~contracts/room-address';
import { useEngine, useEngineState } from '~/audio/hooks';
import { askingInOrder } from '~/ui/ask';
import { opinions } from '~/ui/opinions';
import { useChangedLoops } from '~/ui/changed-loops';
import { usePlace } from '~/ui/place';
import { useProject } from '~/ui/project-store';
import type { LoopCard } from '~contracts/loop-card';
import type { WholeLoop } from '~contracts/whole-loop';
import { wholeLoops } from '~/ui/whole-loops';
import type { Found, FoundCard } from '~server/services/look-up.server';
import { ChosenBar } from './chosen-bar';
import { columns, roomy } from './columns';
import { EmptyList } from './empty-list';
import { LoopListRow, type RowActs } from './loop-row';
import { NoteDialog } from './note-dialog';
import { revealedTop } from './reveal';
import { afterScroll, scrollPx, toListTop, type TallPlace } from './tall-scroll';
import { useChoice } from './use-choice';
import { useCursor } from './use-cursor';
import { usePages } from './use-pages';

const rowHeight = 42;

/** Goes to a letter or a number of the list's order. */
export type Jump = (to: string) => Promise<void>;

const listStart: TallPlace = { listTop: 0, scrollTop: 0 };
/** Rows drawn beyond those in sight. */
const overscan = 6;

const heads: readonly { readonly sort: SortColumn | null; readonly label: string; readonly className?: string }[] = [
  { sort: 'length', label: 'Sound' },
  { sort: 'title', label: 'Title' },
  { sort: 'instrument', label: 'Instrument' },
  { sort: 'tempo', label: 'Tempo' },
  { sort: 'key', label: 'Key' },
  { sort: 'bars', label: 'Bars', className: 'justify-end' },
  { sort: 'pack', label: 'Pack' },
  { sort: 'added', label: 'Added', className: roomy },
  { sort: 'fit', label: 'Fit' },
  { sort: null, label: '' },
];

/** The list: virtual, page by page; arrows move and audition, Enter places. */
export function LoopList({
  query,
  first,
  total,
  onChange,
  jumpRef,
}: {
  query: LoopQuery;
  first: Found;
  total: number;
  onChange: (changes: Partial<LoopQuery>) => void;
  /** Where the list puts what goes to a letter or a number of its order. */
  jumpRef?: React.Ref<Jump>;
}) {
  const engine = useEngine(),
    placeLoop = usePlace(),
    navigate = useRoomNavigate();
  const project = useProject((state) => state.project),
    // Blind, the list must not point at the one that sounds.
    soundingId = useEngineState((state) => (state.shortlist.blind ? null : (state.candidate?.row.id ?? null)));
  const { rowAt, has, indexOf, want, take, say } = usePages(query, first),
    idAt = (index: number) => rowAt(index)?.id ?? null,
    choice = useChoice(new URLSearchParams(queryToParameters(query)).toString(), total, idAt, indexOf),
    scroller = useRef<HTMLDivElement>(null),
    [selected, setSelected] = useCursor(total, idAt, indexOf),
    [noted, setNoted] = useState<LoopCard | null>(null);
  const [place, setPlaceState] = useState(listStart),
    [viewPx, setViewPx] = useState(420),
    at = useRef(place),
    sizes = { listPx: total * rowHeight, viewPx };
  const setPlace = useCallback((next: TallPlace) => {
    at.current = next;
    setPlaceState(next);
  }, []);
  /** Brings a part of the list into the window. */
  const showFrom = (listTop: number) => {
    const next = toListTop(listTop, sizes);
    setPlace(next);
    if (scroller.current) scroller.current.scrollTop = next.scrollTop;
  };
  useEffect(() => {
    const element = scroller.current;
    if (!element) return;
    const watch = new ResizeObserver(() => setViewPx(element.clientHeight));
    watch.observe(element);
    return () => watch.disconnect();
  }, [total === 0]); // eslint-disable-line react-hooks/exhaustive-deps -- the scroller comes and goes with the rows
  // As many rows at every place, whose elements stay while only their words change: half the cost of making them anew.
  const drawn = Math.min(total, Math.ceil(viewPx / rowHeight) + 1 + 2 * overscan),
    top = Math.max(0, Math.min(total - drawn, Math.floor(place.listTop / rowHeight) - overscan)),
    bottom = top + drawn - 1,
    items = Array.from({ length: drawn }, (_, k) => top + k),
    // The first that is seen whole.
    seen = Math.min(total - 1, Math.ceil(place.listTop / rowHeight));
  useChangedLoops(has, take);
  useEffect(() => {
    if (total > 0) want(top, bottom);
  }, [want, top, bottom, total, first]);
  const [shownQuery, setShownQuery] = useState(query),
    [isIn, setIn] = useState(false);
  if (query !== shownQuery) {
    setShownQuery(query);
    // Who is in the list already when what was typed last arrives stands at the same loop, if that is in it.
    if (!isIn) setSelected(-1);
    setPlaceState(listStart);
  }

  const ahead = (index: number) =>
    void wholeLoops()
      .many([1, -1, 2, 3].map((step) => rowAt(index + step)).filter((row): row is FoundCard => row !== null))
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
    const view = { rowHeight, top: at.current.listTop, height: viewPx },
      wanted = revealedTop(next, view);
    if (wanted !== view.top) showFrom(wanted);
  };
  const revealSelected = useRef((): void => {});
  useEffect(() => {
    revealSelected.current = () => selected >= 0 && reveal(selected);
  });
  useEffect(() => {
    at.current = listStart;
    scroller.current?.scrollTo({ top: 0 });
    revealSelected.current();
  }, [query]);
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
    const { favourite } = row;
    say(row.id, { favourite: !favourite });
    void opinions.favourite(row.id, !favourite).then((isKept) => isKept || say(row.id, { favourite }));
  };
  const toggle = (index: number, row: LoopCard) => {
    setSelected(index);
    scroller.current?.focus({ preventScroll: true });
    withWhole(row, (whole) => engine.audition.toggle(whole));
    ahead(index);
  };
  const placeWhole = (row: LoopCard) => withWhole(row, (whole) => placeLoop({ row: whole }));
  // Rows keep the same functions while the list scrolls under them; else each step would draw every row anew.
  const click: RowActs['click'] = (index, row, keys) => {
    if (!keys.adds && !keys.extends) return toggle(index, row);
    setSelected(index);
    scroller.current?.focus({ preventScroll: true });
    if (keys.extends) void choice.extendTo(index);
    else choice.toggle(index, row.id);
  };
  const rate = (row: LoopCard, stars: number | null) => {
    say(row.id, { stars });
    void opinions.stars(row.id, stars).then((isKept) => isKept || say(row.id, { stars: row.stars }));
  };
  const write = (row: LoopCard, note: string) => {
    say(row.id, { note });
    void opinions.note(row.id, note).then((isKept) => isKept || say(row.id, { note: row.note }));
  };
  const near = (wanted: Near) => onChange({ near: wanted, sort: wanted.kind === 'with' ? 'fit' : 'likeness', descending: true });
  const show = (chosen: LoopQuery['chosen']) => onChange({ ...emptyQuery, chosen, sort: 'title', descending: false });
  const latest = useRef({ click, placeWhole, toggleFavourite, rate, near, show });
  useEffect(() => {
    latest.current = { click, placeWhole, toggleFavourite, rate, near, show };
  });
  const projectId = useProject((state) => state.id),
    [jumpInOrder] = useState(askingInOrder);
  useImperativeHandle(jumpRef, () => async (to: string) => {
    const asked = new URLSearchParams([...queryToParameters(query), ['jump', to], ['limit', '1']]),
      found = await jumpInOrder<Found>(inRoom(`/api/v1/loops?${asked}`, projectId)),
      jumpedTo = found?.jumpedTo ?? null;
    if (jumpedTo === null) return;
    showFrom(jumpedTo * rowHeight);
    setSelected(Math.min(total - 1, jumpedTo));
    scroller.current?.focus({ preventScroll: true });
  });
  const [acts] = useState<RowActs>(() => ({
    click: (index, row, keys) => latest.current.click(index, row, keys),
    place: (row) => latest.current.placeWhole(row),
    favourite: (row) => latest.current.toggleFavourite(row),
    rate: (row, stars) => latest.current.rate(row, stars),
    near: (wanted) => latest.current.near(wanted),
    show: (chosen) => latest.current.show(chosen),
    note: setNoted,
  }));
  const chosenOr = (id: number): number[] => (choice.ids.size > 0 && !choice.isAll ? [...choice.ids].slice(0, 8) : [id]);
  const onKeyDown = (event: React.KeyboardEvent) => {
    if (event.target !== event.currentTarget) return;
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'a') {
      event.preventDefault();
      return choice.chooseAll();
    }
    if (event.ctrlKey || event.metaKey) return;
    if (event.altKey && /^Digit[0-5]$/.test(event.code)) {
      const rated = selected >= 0 ? rowAt(selected) : null,
        stars = Number(event.code.slice(5));
      event.preventDefault();
      if (rated) rate(rated, stars === 0 ? null : stars);
      return;
    }
    if (event.altKey) return;
    const row = selected >= 0 ? rowAt(selected) : null;
    const moves: Readonly<Record<string, number>> = {
      ArrowDown: selected < 0 ? seen : selected + 1,
      ArrowUp: selected < 0 ? seen : selected - 1,
      PageDown: (selected < 0 ? seen : selected) + 8,
      PageUp: (selected < 0 ? seen : selected) - 8,
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
    } else if (row && event.key.toLowerCase() === 'f') {
      event.stopPropagation();
      toggleFavourite(row);
    } else if (row && event.key.toLowerCase() === 'l') near({ kind: 'like', ids: chosenOr(row.id), sound: 1, rhythm: 0, harmony: 0 });
    else if (row && event.key.toLowerCase() === 'g') near({ kind: 'with', ids: chosenOr(row.id) });
    else if (row && event.key.toLowerCase() === 'o') navigate(`/loops/${row.id}`);
  };
  return (
    <section aria-label="Loops" className="flex min-h-0 flex-1 flex-col">
      <ChosenBar choice={choice} total={total} onNear={near} />
      {noted && (
        <NoteDialog
          row={noted}
          onClose={() => setNoted(null)}
          onKeep={(note) => {
            write(noted, note);
            setNoted(null);
          }}
        />
      )}
      <div className={`${columns} h-7 shrink-0 border-b border-base-300 bg-base-200 pr-6`}>
        {heads.map(({ sort, label, className }) =>
          sort === null ? (
            <span key="end" />
          ) : (
            <button
              key={sort}
              className={`caps flex items-center gap-0.5 ${className ?? ''}`}
              aria-label={`Sort by ${label}${query.sort === sort ? (query.descending ? ', now falling' : ', now rising') : ''}`}
              onClick={() => onChange({ sort, descending: query.sort === sort ? !query.descending : fallsAtFirst(sort) })}
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
        <EmptyList query={query} />
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
          onScroll={(event) => setPlace(afterScroll(at.current, event.currentTarget.scrollTop, sizes))}
          onBlur={() => setIn(false)}
          onFocus={(event) => {
            setIn(true);
            if (event.target === event.currentTarget && selected < 0) setSelected(seen);
          }}
        >
          <div style={{ height: scrollPx(sizes.listPx), position: 'relative' }}>
            {items.map((index) => (
              <div
                key={index % drawn}
                className="absolute inset-x-0"
                style={{ top: index * rowHeight - (place.listTop - place.scrollTop), height: rowHeight, contain: 'strict' }}
              >
                <LoopListRow
                  index={index}
                  row={rowAt(index)}
                  selected={index === selected}
                  chosen={choice.has(rowAt(index)?.id ?? 0)}
                  sounding={soundingId !== null && rowAt(index)?.id === soundingId}
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
