import { useEffect, useRef, useState } from 'react';
import { playInstead } from '~core/arrangement/acts/shaping';
import { applyEdit } from '~core/arrangement/edit';
import { ofLoop, type Clip, type Project } from '~core/arrangement/tree';
import type { LoopCard } from '~contracts/loop-card';
import type { WholeLoop } from '~contracts/whole-loop';
import { useEngine } from '~/audio/hooks';
import { useProject, useProjectStore } from '~/ui/project-store';
import { toast } from '~/ui/toast';
import { wholeLoops } from '~/ui/whole-loops';
import { fetchOthers, othersAddress, othersInWords, type OthersFrom } from './siblings';

/** Another loop in a clip's place: walked by keys while the piece plays, each heard where it would lie; one is kept. */
export function InsteadPanel({
  project,
  clip,
  chosen,
  onClose,
}: {
  project: Project;
  clip: Clip;
  chosen: readonly string[];
  onClose: () => void;
}) {
  const store = useProjectStore(),
    engine = useEngine(),
    projectId = useProject((state) => state.id) ?? 0,
    row = useProject((state) => ofLoop(state.loops, clip)),
    [from, setFrom] = useState<OthersFrom>(row?.setId == null ? 'fit' : 'set'),
    rowId = row?.id,
    address = row ? othersAddress(row, from, projectId) : null,
    [found, setFound] = useState<{ readonly address: string | null; readonly cards: readonly LoopCard[] } | null>(null),
    others = found?.address === address ? found.cards : null,
    // By its number, not by its place: what is heard is what is kept, whatever list comes.
    [candidateId, setCandidateId] = useState<number | null>(null),
    at = others?.findIndex(({ id }) => id === candidateId) ?? -1,
    [heard, setHeard] = useState<WholeLoop | null>(null),
    list = useRef<HTMLUListElement>(null),
    walks = useRef(0),
    candidate = others?.[at] ?? null;
  useEffect(() => {
    if (rowId === undefined) return;
    let gone = false;
    void fetchOthers(address, rowId).then((cards) => !gone && setFound({ address, cards }));
    return () => {
      gone = true;
    };
  }, [rowId, address]);
  useEffect(() => {
    list.current?.focus();
    return () => store.hearInstead(null);
  }, [store]);
  // What is heard follows the piece, whatever else is done to it meanwhile.
  useEffect(() => {
    const edit = heard && playInstead(project, chosen, { kind: 'loop', loopId: heard.id });
    store.hearInstead(edit ? applyEdit(project, edit).project : null, heard ? [heard] : []);
  }, [store, project, chosen, heard]);
  const walk = async (to: number) => {
    const card = others?.[to],
      walked = ++walks.current;
    setCandidateId(card?.id ?? null);
    const whole = card ? await wholeLoops().of(card) : null;
    // Whoever walks fast hears the last one only.
    if (walked === walks.current) setHeard(whole);
  };
  const keep = async () => {
    if (!candidate) return;
    const whole = await wholeLoops().of(candidate),
      edit = playInstead(project, chosen, { kind: 'loop', loopId: candidate.id }),
      wrong = edit && whole ? store.edit(edit, [whole]) : 'It is no longer there.';
    if (wrong) return void toast.error(wrong);
    toast(`“${candidate.title}” plays there now.`, { action: { label: 'Undo', onClick: store.undoOfLast() } });
    onClose();
  };
  return (
    <section aria-label="Instead of it" className="shrink-0 border-t border-base-300 bg-base-100 px-3 py-2">
      <div className="flex flex-wrap items-center gap-2">
        <strong className="max-w-80 truncate">Instead of “{row?.title ?? 'the clip'}”</strong>
        <select
          className="select select-xs w-64"
          aria-label="From where"
          value={from}
          onChange={({ target }) => {
            void walk(-1);
            setFrom(target.value as OthersFrom);
          }}
        >
          {(Object.keys(othersInWords) as OthersFrom[]).map((each) => (
            <option key={each} value={each} disabled={each === 'set' && row?.setId == null}>
              {othersInWords[each]}
            </option>
          ))}
        </select>
        <span className="quiet">↑ ↓ hear in its place · Enter keeps · Escape leaves it</span>
        <span className="ml-auto flex gap-1">
          <button className="btn btn-xs" onClick={() => engine.toggle()}>
            Play or stop
          </button>
          <button className="btn btn-xs btn-primary" disabled={!candidate} onClick={() => void keep()}>
            Keep it
          </button>
          <button className="btn btn-xs" onClick={onClose}>
            Leave it as it is
          </button>
        </span>
      </div>
      <ul
        ref={list}
        role="listbox"
        tabIndex={0}
        aria-label="Candidates"
        aria-activedescendant={candidate ? `instead-${candidate.id}` : undefined}
        className="mt-2 flex max-h-28 flex-wrap content-start gap-1 overflow-y-auto focus-visible:outline-2 focus-visible:outline-primary"
        onKeyDown={(event) => {
          const by = { ArrowDown: 1, ArrowRight: 1, ArrowUp: -1, ArrowLeft: -1 }[event.key];
          if (by !== undefined) void walk(Math.max(-1, Math.min((others?.length ?? 0) - 1, at + by)));
          else if (event.key === 'Enter') void keep();
          else if (event.key === 'Escape') onClose();
          else return;
          event.preventDefault();
          event.stopPropagation();
        }}
      >
        {others === null && <li className="quiet">Looking …</li>}
        {others?.length === 0 && <li className="quiet">There is none. Try from elsewhere.</li>}
        {others?.map((card, k) => (
          <li
            key={card.id}
            id={`instead-${card.id}`}
            role="option"
            aria-selected={k === at}
            className={`max-w-64 cursor-pointer truncate rounded-sm border px-2 py-0.5 ${k === at ? 'border-primary bg-primary text-primary-content' : 'border-base-300'}`}
            onClick={() => void walk(k)}
          >
            {card.title}
          </li>
        ))}
      </ul>
    </section>
  );
}
