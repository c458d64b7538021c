import { useEffect, useRef, useState } from 'react';
import { useFetcher, useRevalidator } from 'react-router';
import { RoomLink } from '~/ui/room-link';
import { api, putOrDelete } from '~/ui/api';
import { useLive } from '~/ui/live';
import { doubtAttributes } from '~core/analysis/attributes/registry';
import type { Candidate } from '~core/analysis/facts';
import { useEngine } from '~/audio/hooks';
import { AnotherValue } from '~/ui/another-value';
import { CheckByEar } from '~/ui/ear/check-by-ear';
import { factLabel, inWords, percent, toField } from '~/ui/fact-words';
import { toast } from '~/ui/toast';
import { countParam } from '~server/http/input.server';
import { requirePerson } from '~server/http/session.server';
import { doubtsAtOnce, findDoubts, type Doubt } from '~server/services/doubts.server';
import type { LoopDetail } from '~contracts/loop-detail';
import type { Route } from './+types/route';
import { answersOf } from './answers';
import { DoubtRow } from './doubt-row';

export const meta: Route.MetaFunction = () => [{ title: 'Needs an ear · Garnetfinch' }];

export async function loader({ request }: Route.LoaderArgs) {
  const person = await requirePerson(request),
    { searchParams } = new URL(request.url),
    asked = searchParams.get('fact'),
    limit = countParam(searchParams.get('show'), doubtsAtOnce, 1200),
    only = doubtAttributes.find((each) => each === asked) ?? null;
  return { only, ...(await findDoubts(person.id, only, limit)) };
}

const nameOf = ({ row, attribute }: Doubt): string => `${row.id}-${attribute}`;

/** The queue of doubtful facts, the most doubtful first: hear, press a number, and the next one comes. */
export default function NeedsAnEar({ loaderData: { doubts, counts, only } }: Route.ComponentProps) {
  const engine = useEngine(),
    act = useFetcher(),
    list = useRef<HTMLDivElement>(null),
    [at, setAt] = useState(0),
    [marked, setMarked] = useState<ReadonlySet<string>>(new Set()),
    flowing = useRef(false);
  const selected = Math.min(at, doubts.length - 1),
    current = doubts[selected] as Doubt | undefined,
    currentName = current ? nameOf(current) : null,
    waiting = only ? counts[only] : doubtAttributes.reduce((sum, attribute) => sum + counts[attribute], 0),
    total = doubtAttributes.reduce((sum, attribute) => sum + counts[attribute], 0);
  const { revalidate } = useRevalidator();
  useLive('library', ({ loopIds }) => loopIds?.some((id) => doubts.some(({ row }) => row.id === id)) && void revalidate());
  // The one that moves up after an answer is heard at once.
  useEffect(() => {
    if (!current || !flowing.current) return;
    flowing.current = false;
    void engine.audition.start(current.row);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only when another one has moved up
  }, [currentName, engine]);
  useEffect(() => {
    document.getElementById(`doubt-${currentName}`)?.scrollIntoView({ block: 'nearest' });
  }, [currentName]);

  const agreed = (facts: readonly string[], isAgreed: boolean) => {
    const form = new FormData();
    for (const fact of facts) form.append('fact', fact);
    void act.submit(form, { method: putOrDelete(isAgreed), action: api.agreedFacts });
  };
  const undo = (facts: readonly string[]) => ({ label: 'Undo', onClick: () => agreed(facts, false) });
  const say = (doubt: Doubt, field: string, words: string) => {
    flowing.current = true;
    void act.submit({ value: field }, { method: 'put', action: api.fact(doubt.row.id, doubt.attribute) });
    toast(`${doubt.row.title}: ${factLabel(doubt.attribute).toLowerCase()} ${words}.`, { action: undo([nameOf(doubt)]) });
  };
  const answer = (doubt: Doubt, { value }: Candidate) =>
      say(doubt, toField(doubt.attribute, value), inWords(doubt.attribute, value, doubt.row.source.barBeats)),
    sayOther = (doubt: Doubt, field: string) => say(doubt, field, 'set by you');
  const agreeWithMarked = () => {
    const facts = doubts.map(nameOf).filter((name) => marked.has(name));
    if (facts.length === 0) return;
    agreed(facts, true);
    toast(`Agreed with ${facts.length} ${facts.length === 1 ? 'guess' : 'guesses'}.`, { action: undo(facts) });
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
    setAt(next);
    if (doubts[next]) void engine.audition.start(doubts[next].row);
  };
  const onKeyDown = (event: React.KeyboardEvent) => {
    if (event.target !== event.currentTarget || event.ctrlKey || event.metaKey || event.altKey || !current) return;
    const digit = Number(event.key),
      answers = answersOf(current);
    if (event.key === 'ArrowDown') go(selected + 1);
    else if (event.key === 'ArrowUp') go(selected - 1);
    else if (event.key === 'Enter') {
      if (event.shiftKey) agreeWithMarked();
      else answer(current, answers[0]);
    } else if (event.key === 'x') mark(current);
    else if (digit >= 1 && digit <= answers.length) answer(current, answers[digit - 1]);
    else return;
    event.preventDefault();
    // Here digits answer; everywhere else they are the shortlist's.
    event.nativeEvent.stopImmediatePropagation();
  };
  return (
    <div className="mx-auto grid max-w-[90rem] gap-6 p-5 lg:h-full lg:grid-cols-[1fr_30.5rem] lg:grid-rows-[minmax(0,1fr)]">
      <section aria-labelledby="ear-queue" className="flex min-h-0 min-w-0 flex-col">
        <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
          <h1 id="ear-queue">Needs an ear</h1>
          <p className="quiet">
            {total === 0 ? 'nothing is in doubt' : `${total} facts in doubt, the most doubtful first`} ·{' '}
            <RoomLink to="/packs" className="link">
              back to the packs
            </RoomLink>
          </p>
        </div>
        <nav aria-label="Which facts" className="mt-2 flex flex-wrap gap-1.5">
          {[null, ...doubtAttributes].map((attribute) => (
            <RoomLink
              key={attribute ?? 'all'}
              to={attribute ? `?fact=${attribute}` : '?'}
              className={`btn btn-sm ${only === attribute ? 'btn-neutral' : ''}`}
              aria-current={only === attribute ? 'page' : undefined}
              onClick={() => {
                setAt(0);
                setMarked(new Set());
              }}
            >
              {attribute ? factLabel(attribute) : 'All'} <span className="tabular-nums">{attribute ? counts[attribute] : total}</span>
            </RoomLink>
          ))}
          <button className="btn btn-sm ml-auto" disabled={marked.size === 0} onClick={agreeWithMarked}>
            Agree with {marked.size === 0 ? 'the marked ones' : `${marked.size} marked`}
          </button>
        </nav>
        {doubts.length === 0 ? (
          <p className="quiet mt-8 text-center">
            Nothing here waits for an ear. What comes in with a new pack and is less than 85 % sure will.
          </p>
        ) : (
          <>
            <p className="quiet mt-2">
              ↓ ↑ move and hear · <kbd className="kbd kbd-sm">1</kbd>–<kbd className="kbd kbd-sm">4</kbd> answer ·{' '}
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
              className="relative mt-2 flex min-h-60 flex-col overflow-y-auto max-lg:max-h-[50vh] border-y border-base-300 outline-offset-[-2px]"
              onKeyDown={onKeyDown}
            >
              {doubts.map((doubt, index) => (
                <DoubtRow
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
                  onAnswer={(value) => {
                    setAt(index);
                    answer(doubt, value);
                    list.current?.focus({ preventScroll: true });
                  }}
                />
              ))}
            </div>
            {doubts.length < waiting && (
              <p className="mt-2 flex items-center gap-3">
                <span className="quiet">
                  The {doubts.length} most doubtful of {waiting}.
                </span>
                <RoomLink
                  className="btn btn-sm"
                  preventScrollReset
                  to={`?${new URLSearchParams({ ...(only ? { fact: only } : {}), show: String(doubts.length + 60) })}`}
                >
                  Show more
                </RoomLink>
              </p>
            )}
          </>
        )}
      </section>
      <aside aria-label="The one that is selected" className="min-h-0 min-w-0 lg:overflow-y-auto">
        {current && <Bench key={current.row.id} doubt={current} onAnswer={(value) => sayOther(current, value)} />}
      </aside>
    </div>
  );
}

/** What one compares the selected loop with, and why its fact is in doubt. */
function Bench({ doubt: { row, attribute, value, confidence, reasons }, onAnswer }: { doubt: Doubt; onAnswer: (field: string) => void }) {
  const more = useFetcher<{ detail: LoopDetail }>(),
    { load } = more;
  useEffect(() => {
    // Not for those that are only passed by.
    const timer = setTimeout(() => void load(`/loops/${row.id}`), 150);
    return () => clearTimeout(timer);
  }, [load, row.id]);
  return (
    <div className="panel p-4">
      <h2 className="truncate">
        <RoomLink to={`/loops/${row.id}`} className="hover:underline">
          {row.title}
        </RoomLink>
      </h2>
      <p className="quiet truncate">{row.fileName}</p>
      <p className="mt-2">
        {factLabel(attribute)} is probably <strong>{inWords(attribute, value, row.source.barBeats)}</strong>, {percent(confidence)}
        {reasons.length > 0 && <span className="quiet">: {reasons.join('; ')}</span>}
      </p>
      <div className="mt-2 flex items-center gap-2">
        None of these? <AnotherValue attribute={attribute} onCorrect={(_, field) => onAnswer(field)} />
      </div>
      {more.data && more.data.detail.row.id === row.id ? (
        <CheckByEar detail={more.data.detail} />
      ) : (
        <p className="quiet mt-6" role="status">
          laying out what to compare it with …
        </p>
      )}
    </div>
  );
}
