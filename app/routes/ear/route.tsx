import { useEffect, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { LayoutGrid, Rows3 } from 'lucide-react';
import { doubtAttributes, type DoubtAttribute } from '~core/analysis/attributes/registry';
import { useEngine } from '~/audio/hooks';
import { useRenewal } from '~/ui/use-renewal';
import { factLabel } from '~/ui/fact-words';
import { useLive } from '~/ui/live';
import { RoomLink } from '~/ui/room-link';
import { countParam, idParam } from '~server/http/input.server';
import { requirePerson } from '~server/http/session.server';
import { doubtsAtOnce, findDoubts, type Doubt } from '~server/services/doubts.server';
import { packNamed } from '~server/services/packs.server';
import type { Route } from './+types/route';
import { answersOf } from './answers';
import { Bench } from './bench';
import { DoubtCard } from './doubt-card';
import { DoubtRow } from './doubt-row';
import { PackProgress } from './pack-progress';
import { SameFor } from './same-for';
import { nowhere, standIn } from './standing';
import { markedAlike, nameOf, useAnswers } from './use-answers';

export const meta: Route.MetaFunction = () => [{ title: 'Needs an ear · Garnetfinch' }];

const mostPassedOver = 10_000_000;

export async function loader({ request }: Route.LoaderArgs) {
  const person = await requirePerson(request),
    { searchParams } = new URL(request.url),
    fact = searchParams.get('fact'),
    asked = searchParams.get('pack'),
    from = countParam(searchParams.get('from'), 0, mostPassedOver),
    only = doubtAttributes.find((each) => each === fact) ?? null,
    packId = asked === null ? null : idParam(asked),
    [queue, pack] = await Promise.all([findDoubts(person.id, { only, packId, from }), packId === null ? null : packNamed(packId)]);
  return { only, packId, from, pack, atOnce: doubtsAtOnce, ...queue };
}

const gridColumns = 3;

/** The queue of doubtful facts, those most worth settling first: hear, press a number, and the next one comes. */
export default function NeedsAnEar({ loaderData: { doubts, counts, only, packId, from, pack, atOnce } }: Route.ComponentProps) {
  const engine = useEngine(),
    list = useRef<HTMLDivElement>(null),
    [parameters] = useSearchParams(),
    isGrid = parameters.get('as') === 'grid',
    [standing, setStanding] = useState(nowhere),
    [marked, setMarked] = useState<ReadonlySet<string>>(new Set()),
    flowing = useRef(false),
    answers = useAnswers();
  // What others answer, and what comes in, moves the list: an answer is for the one that is heard.
  const inList = `${only} ${packId} ${from}`,
    names = doubts.map(nameOf),
    selected = standIn(inList, names, standing),
    standAt = (index: number) => setStanding({ list: inList, name: names[index] ?? null, names }),
    current = doubts[selected] as Doubt | undefined,
    currentName = current ? nameOf(current) : null,
    waiting = only ? counts[only] : doubtAttributes.reduce((sum, attribute) => sum + counts[attribute], 0),
    total = doubtAttributes.reduce((sum, attribute) => sum + counts[attribute], 0);
  if (standing.list !== inList || standing.names.join() !== names.join()) standAt(selected);
  const renew = useRenewal();
  useLive('library', ({ loopIds }) => loopIds?.some((id) => doubts.some(({ row }) => row.id === id)) && void renew());
  // The one that moves up is heard at once: after an answer, and where somebody else has answered what is heard.
  const shownId = useRef<number | null>(null);
  useEffect(() => {
    const before = shownId.current,
      heardId = engine.store.getState().candidate?.row.id;
    shownId.current = current?.row.id ?? null;
    if (!current) return;
    const isAnsweredByOthers = before !== null && heardId === before && !doubts.some(({ row }) => row.id === before);
    if (!flowing.current && !isAnsweredByOthers) return;
    flowing.current = false;
    void engine.audition.start(current.row);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only when another one has moved up
  }, [currentName, engine]);
  useEffect(() => {
    document.getElementById(`doubt-${currentName}`)?.scrollIntoView({ block: 'nearest' });
  }, [currentName]);

  /** The same page with something else of it. */
  const addressOf = (changes: { fact?: DoubtAttribute | null; pack?: number | null; from?: number; as?: string | null }): string => {
    const { fact = only, pack: ofPack = packId, from: start = 0, as = isGrid ? 'grid' : null } = changes,
      all = Object.entries({ fact, pack: ofPack, from: start || null, as }).flatMap(([name, value]) =>
        value === null ? [] : [[name, String(value)]],
      );
    return `/packs/ear?${new URLSearchParams(all)}`;
  };
  const startOver = () => {
    setStanding(nowhere);
    setMarked(new Set());
  };
  const say = (doubt: Doubt, value: unknown, isOther = false) => {
    flowing.current = true;
    void answers.say(doubt, value, isOther);
  };
  const agreeWithMarked = () => {
    const facts = doubts.map(nameOf).filter((name) => marked.has(name));
    if (facts.length === 0) return;
    void answers.agreeWith(facts);
    setMarked(new Set());
  };
  const mark = (doubt: Doubt) =>
    setMarked((before) => {
      const next = new Set(before);
      if (!next.delete(nameOf(doubt))) next.add(nameOf(doubt));
      return next;
    });
  const go = (index: number) => {
    const next = Math.max(0, Math.min(doubts.length - 1, index));
    standAt(next);
    if (doubts[next]) void engine.audition.start(doubts[next].row);
  };
  const { last, offer } = answers,
    alsoMarked = last ? markedAlike(last, doubts, marked) : [];
  const sameFor: Readonly<Record<string, readonly number[]>> = {
    s: last?.ofSet.map(({ loopId }) => loopId) ?? [],
    p: last?.ofPack.map(({ loopId }) => loopId) ?? [],
    m: alsoMarked,
  };
  const saySame = (loopIds: readonly number[]) => {
    answers.saySame(loopIds);
    setMarked(new Set());
  };
  const steps: Readonly<Record<string, number>> = isGrid
    ? { ArrowDown: gridColumns, ArrowUp: -gridColumns, ArrowRight: 1, ArrowLeft: -1 }
    : { ArrowDown: 1, ArrowUp: -1 };
  const onKeyDown = (event: React.KeyboardEvent) => {
    if (event.target !== event.currentTarget || event.ctrlKey || event.metaKey || event.altKey || !current) return;
    const digit = Number(event.key),
      offered = answersOf(current);
    if (event.key in steps) go(selected + steps[event.key]);
    else if (event.key === 'Enter') {
      if (event.shiftKey) agreeWithMarked();
      else say(current, offered[0].value);
    } else if (event.key === 'x') mark(current);
    else if (event.key === 'r' && offer) answers.follow(offer);
    else if (sameFor[event.key]?.length > 0) saySame(sameFor[event.key]);
    else if (digit >= 1 && digit <= offered.length) say(current, offered[digit - 1].value);
    else return;
    event.preventDefault();
    // Here digits answer; everywhere else they are the shortlist's.
    event.nativeEvent.stopImmediatePropagation();
  };
  const Item = isGrid ? DoubtCard : DoubtRow;
  return (
    <div className="mx-auto grid max-w-[90rem] gap-6 p-5 lg:h-full lg:grid-cols-[1fr_30.5rem] lg:grid-rows-[minmax(0,1fr)]">
      <section aria-labelledby="ear-queue" className="flex min-h-0 min-w-0 flex-col">
        <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
          <h1 id="ear-queue">Needs an ear</h1>
          <p className="quiet">
            {total === 0 ? 'nothing is in doubt' : `${total} facts in doubt, those most worth settling first`} ·{' '}
            <RoomLink to="/packs" className="link">
              back to the packs
            </RoomLink>
          </p>
          <span className="ml-auto flex items-center gap-1.5">
            <PackProgress pack={pack} addressOf={(chosen) => addressOf({ pack: chosen })} />
            <RoomLink
              to={addressOf({ as: isGrid ? null : 'grid', from })}
              className="btn btn-sm btn-square"
              aria-label={isGrid ? 'One under the other' : 'Many as a grid'}
              title={isGrid ? 'One under the other' : 'Many as a grid'}
            >
              {isGrid ? <Rows3 className="size-4" /> : <LayoutGrid className="size-4" />}
            </RoomLink>
          </span>
        </div>
        <nav aria-label="Which facts" className="mt-2 flex flex-wrap gap-1.5">
          {[null, ...doubtAttributes].map((attribute) => (
            <RoomLink
              key={attribute ?? 'all'}
              to={addressOf({ fact: attribute })}
              className={`btn btn-sm ${only === attribute ? 'btn-neutral' : ''}`}
              aria-current={only === attribute ? 'page' : undefined}
              onClick={startOver}
            >
              {attribute ? factLabel(attribute) : 'All'} <span className="tabular-nums">{attribute ? counts[attribute] : total}</span>
            </RoomLink>
          ))}
          <button className="btn btn-sm ml-auto" disabled={marked.size === 0} onClick={agreeWithMarked}>
            Agree with {marked.size === 0 ? 'the marked ones' : `${marked.size} marked`}
          </button>
        </nav>
        <SameFor last={last} marked={alsoMarked} offer={offer} onSame={saySame} onFollow={answers.follow} onDecline={answers.decline} />
        {doubts.length === 0 ? (
          <p className="quiet mt-8 text-center">
            Nothing here waits for an ear. What comes in with a new pack and is less than 85 % sure will.
          </p>
        ) : (
          <>
            <p className="quiet mt-2">
              {isGrid ? '↓ ↑ → ←' : '↓ ↑'} move and hear · <kbd className="kbd kbd-sm">1</kbd>–<kbd className="kbd kbd-sm">4</kbd> answer ·{' '}
              <kbd className="kbd kbd-sm">Enter</kbd> agree · <kbd className="kbd kbd-sm">x</kbd> mark ·{' '}
              <kbd className="kbd kbd-sm">Shift</kbd> <kbd className="kbd kbd-sm">Enter</kbd> agree with all marked
            </p>
            <div
              ref={list}
              data-ear-list
              role="grid"
              tabIndex={0}
              aria-multiselectable="true"
              aria-label="Doubtful facts; arrows move and audition, numbers answer"
              aria-activedescendant={currentName ? `doubt-${currentName}` : undefined}
              className={`relative mt-2 min-h-60 overflow-y-auto max-lg:max-h-[50vh] border-y border-base-300 outline-offset-[-2px] ${isGrid ? 'grid grid-cols-3 content-start gap-2 p-1' : 'flex flex-col'}`}
              onKeyDown={onKeyDown}
            >
              {doubts.map((doubt, index) => (
                <Item
                  key={nameOf(doubt)}
                  id={`doubt-${nameOf(doubt)}`}
                  doubt={doubt}
                  answers={answersOf(doubt)}
                  selected={index === selected}
                  marked={marked.has(nameOf(doubt))}
                  onHear={() => {
                    go(index);
                    list.current?.focus({ preventScroll: true });
                  }}
                  onMark={() => mark(doubt)}
                  onAnswer={({ value }) => {
                    standAt(index);
                    say(doubt, value);
                    list.current?.focus({ preventScroll: true });
                  }}
                />
              ))}
            </div>
            {(from > 0 || from + doubts.length < waiting) && (
              <p className="mt-2 flex items-center gap-3">
                <span className="quiet">
                  {from + 1} to {from + doubts.length} of {waiting}.
                </span>
                {from > 0 && (
                  <RoomLink className="btn btn-sm" to={addressOf({ from: Math.max(0, from - atOnce) })} onClick={startOver}>
                    Those before
                  </RoomLink>
                )}
                {from + doubts.length < waiting && (
                  <RoomLink className="btn btn-sm" to={addressOf({ from: from + atOnce })} onClick={startOver}>
                    The next ones
                  </RoomLink>
                )}
              </p>
            )}
          </>
        )}
      </section>
      <aside aria-label="The one that is selected" className="min-h-0 min-w-0 lg:overflow-y-auto">
        {current && <Bench key={current.row.id} doubt={current} onAnswer={(value) => say(current, value, true)} />}
      </aside>
    </div>
  );
}
