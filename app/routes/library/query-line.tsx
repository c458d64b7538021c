import { Fragment, useEffect, useRef, useState } from 'react';
import { History, Search, Star, X } from 'lucide-react';
import { facets } from '~core/search/facets';
import { completionsOf, lineHelp, movedPart, partInWords, readLine, turnedPart, withoutPart } from '~core/search/line';
import { chosenOf, emptyQuery, hasFilters, rangeNames, toggled, type LoopQuery } from '~core/search/query';
import { Popover } from '~/ui/popover';
import { RoomLink } from '~/ui/room-link';
import { PinnedSearches } from './pinned-searches';
import { rangeInWords } from '~/ui/query-words';
import { SoundAsked } from './sound-asked';

interface Chip {
  readonly label: string;
  /** Moved before or behind its neighbour in the line; none for what has no place there. */
  readonly moved?: (by: -1 | 1) => Partial<LoopQuery>;
  readonly without: Partial<LoopQuery>;
  /** Meant the other way round; none for what can't be. */
  readonly turned?: Partial<LoopQuery>;
}

interface Named {
  readonly id: number;
  readonly name: string;
}

/** What is there to be named in a query. */
interface Places {
  readonly packs: readonly Named[];
  readonly collections: readonly Named[];
}

/** What is asked for, one chip a step, in the order of the sentence. */
function chipsOf(query: LoopQuery, { packs, collections }: Places): Chip[] {
  const nameIn = (list: readonly Named[], value: string) => list.find(({ id }) => String(id) === value)?.name;
  return [
    ...facets.flatMap(({ name, inWords }) =>
      chosenOf(query, name).map((value) => ({
        label:
          name === 'pack'
            ? `from ${nameIn(packs, value) ?? inWords(value)}`
            : name === 'collection'
              ? `in “${nameIn(collections, value) ?? inWords(value)}”`
              : inWords(value),
        without: { chosen: toggled(query, name, value) },
      })),
    ),
    ...readLine(query.words).parts.flatMap((part): Chip[] => {
      const label = partInWords(part);
      return label === null
        ? []
        : [
            {
              label,
              without: { words: withoutPart(query.words, part) },
              turned: { words: turnedPart(query.words, part) },
              moved: (by) => ({ words: movedPart(query.words, part, by) }),
            },
          ];
    }),
    ...(query.tempo ? [{ label: `at ${query.tempo.fromBpm}–${query.tempo.toBpm}`, without: { tempo: null } }] : []),
    ...rangeNames.flatMap((name): Chip[] => {
      const range = query.ranges[name],
        { [name]: _, ...ranges } = query.ranges;
      return range ? [{ label: rangeInWords(name, range), without: { ranges } }] : [];
    }),
    ...(query.favourites ? [{ label: 'my favourites', without: { favourites: false } }] : []),
  ];
}

/** Facets with a list to choose from; families and bars are chosen in their charts. */
const stepFacets = facets.filter(
  ({ name, choices }) => (choices !== null && name !== 'family') || name === 'pack' || name === 'collection',
);

/** Keys that are pressed closer together are asked for once. */
const typingMs = 60;

/** The steps of the sentence, with the keyboard too: arrows go from one to the next, with Alt they move it, N turns it round, Delete takes it away. */
function Chips({ chips, onChange }: { chips: readonly Chip[]; onChange: (changes: Partial<LoopQuery>) => void }) {
  const list = useRef<HTMLSpanElement>(null);
  const focus = (index: number) => list.current?.querySelectorAll<HTMLElement>('[data-chip]')[index]?.focus();
  const keys = (event: React.KeyboardEvent, chip: Chip, index: number) => {
    const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (by !== 0 && event.altKey && chip.moved) {
      event.preventDefault();
      onChange(chip.moved(by));
      requestAnimationFrame(() => focus(Math.max(0, Math.min(chips.length - 1, index + by))));
    } else if (by !== 0) {
      event.preventDefault();
      focus(Math.max(0, Math.min(chips.length - 1, index + by)));
    } else if (event.key === 'Delete') {
      event.preventDefault();
      onChange(chip.without);
      requestAnimationFrame(() =>
        chips.length > 1 ? focus(Math.max(0, index - 1)) : document.querySelector<HTMLElement>('[data-query]')?.focus(),
      );
    } else if (event.key.toLowerCase() === 'n' && chip.turned) {
      event.preventDefault();
      onChange(chip.turned);
    }
  };
  return (
    <span
      ref={list}
      className="contents"
      role="group"
      aria-label="Steps of the search; Alt and arrows move one, N turns it round, Delete takes it away"
    >
      {chips.map((chip, index) => (
        <span key={chip.label} className="inline-flex h-7 items-center rounded-full border border-primary bg-base-200">
          {chip.turned && (
            <button
              tabIndex={-1}
              className="h-full rounded-l-full border-r border-base-300 px-2 hover:bg-base-300"
              onClick={() => onChange(chip.turned as Partial<LoopQuery>)}
              aria-label={`${chip.label.startsWith('not ') ? 'yes' : 'not'}, turned round: ${chip.label}`}
              title="The other way round (N)"
            >
              {chip.label.startsWith('not ') ? 'yes' : 'not'}
            </button>
          )}
          <button
            data-chip
            className="inline-flex h-full items-center gap-1 rounded-full px-2.5"
            onClick={() => onChange(chip.without)}
            onKeyDown={(event) => keys(event, chip, index)}
            aria-label={`Take away: ${chip.label}`}
          >
            {chip.label}
            <X className="size-3.5" aria-hidden="true" />
          </button>
        </span>
      ))}
    </span>
  );
}

/** One line that reads as a sentence: words, then each step taken, each of which can be taken back. */
export function QueryLine({
  query,
  packs,
  collections,
  meant,
  total,
  onChange,
}: Places & {
  query: LoopQuery;
  /** Words of the line that nothing begins with, and what they were likely meant to be. */
  meant: readonly (readonly [string, readonly string[]])[];
  total: number;
  onChange: (changes: Partial<LoopQuery>, replace?: boolean) => void;
}) {
  const [words, setWords] = useState(query.words),
    field = useRef<HTMLInputElement>(null),
    latest = useRef(onChange),
    sent = useRef(0);
  useEffect(() => {
    latest.current = onChange;
  });
  useEffect(() => {
    if (document.activeElement !== field.current) setWords(query.words);
  }, [query.words]);
  useEffect(() => {
    if (words.trim() === query.words) return;
    // The first key is asked for at once, those on its heels together.
    const wait = Math.max(0, sent.current + typingMs - performance.now());
    const pause = setTimeout(() => {
      sent.current = performance.now();
      latest.current({ words: words.trim() }, true);
    }, wait);
    return () => clearTimeout(pause);
  }, [words, query.words]);
  /** What is changed by a chip stands in the field too. */
  const change = (changes: Partial<LoopQuery>) => {
    if (changes.words !== undefined) setWords(changes.words);
    onChange(changes);
  };
  const lists: Readonly<Record<string, readonly Named[]>> = { pack: packs, collection: collections };
  // By what stands in the field, which is ahead of the address.
  const chips = chipsOf({ ...query, words }, { packs, collections });
  return (
    <div className="flex min-h-11 shrink-0 flex-wrap items-center gap-x-2 gap-y-1 border-b border-base-300 px-3 py-1.5" role="search">
      <label className="input input-sm w-64">
        <Search className="quiet size-4" aria-hidden="true" />
        <span className="sr-only">Words in title, file, pack, instrument or tags</span>
        <input
          ref={field}
          data-query
          type="search"
          placeholder="shaker 118-126 Fm …"
          list="query-completions"
          autoComplete="off"
          value={words}
          onChange={(event) => setWords(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'ArrowDown') {
              event.preventDefault();
              document.querySelector<HTMLElement>('[data-loop-list]')?.focus();
            }
          }}
        />
        <kbd className="kbd kbd-xs">/</kbd>
      </label>
      <datalist id="query-completions">
        {completionsOf(words).map(({ form, means }) => (
          <option key={form} value={words.replace(/(-?)\S+$/, `$1${form}`)} label={means} />
        ))}
      </datalist>
      <Popover label="?" hint="What can be typed here">
        <h2>What can be typed</h2>
        <p className="quiet mt-1">Words, by their beginning, in any script; and beside them, in any order:</p>
        <dl className="mt-2 grid max-h-96 grid-cols-[7rem_1fr] gap-x-3 gap-y-1 overflow-y-auto" tabIndex={0}>
          {lineHelp.map(({ form, means }) => (
            <Fragment key={form}>
              <dt className="font-semibold">{form}</dt>
              <dd>{means}</dd>
            </Fragment>
          ))}
        </dl>
      </Popover>
      {stepFacets
        .filter(({ name }) => lists[name]?.length !== 0)
        .map(({ name, label, choices }) => (
          <Step
            key={name}
            label={label}
            options={lists[name]?.map((each) => ({ value: String(each.id), label: each.name })) ?? choices ?? []}
            onPick={(value) => onChange({ chosen: toggled(query, name, value) })}
          />
        ))}
      <button
        className={`btn btn-sm ${query.favourites ? 'btn-neutral' : 'btn-ghost'}`}
        aria-pressed={query.favourites}
        onClick={() => onChange({ favourites: !query.favourites })}
      >
        <Star className="size-4" fill={query.favourites ? 'currentColor' : 'none'} /> favourites
      </button>
      <RoomLink to="/heard" className="btn btn-sm btn-ghost" title="What I heard (H)">
        <History className="size-4" aria-hidden="true" /> heard
      </RoomLink>
      <SoundAsked onFind={(near) => onChange({ near, sort: 'likeness', descending: true })} />
      <PinnedSearches />
      <Chips chips={chips} onChange={change} />
      {meant.length > 0 && (
        <span className="quiet" role="status">
          also {meant.map(([typed, said]) => `${said.map((each) => `“${each}”`).join(', ')} for “${typed}”`).join('; ')}
        </span>
      )}
      {hasFilters(query) && (
        <button
          className="link"
          onClick={() => {
            setWords('');
            onChange({ ...emptyQuery, sort: query.sort, descending: query.descending });
          }}
        >
          clear all
        </button>
      )}
      <output className="ml-auto" aria-live="polite">
        <strong>{total.toLocaleString('en')}</strong> <span className="quiet">{total === 1 ? 'loop' : 'loops'}</span>
      </output>
    </div>
  );
}

function Step({
  label,
  options,
  onPick,
}: {
  label: string;
  options: readonly { value: string; label: string }[];
  onPick: (value: string) => void;
}) {
  return (
    <select
      className="select select-sm select-ghost w-auto pr-7"
      aria-label={`Narrow by ${label}`}
      value=""
      onChange={(event) => {
        if (event.target.value) onPick(event.target.value);
      }}
    >
      <option value="">{label}</option>
      {options.map((option) => (
        <option key={option.value} value={option.value}>
          {option.label}
        </option>
      ))}
    </select>
  );
}
