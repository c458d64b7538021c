import { useEffect, useRef, useState } from 'react';
import { repetitionLines, varyClip } from '~core/arrangement/acts/shaping';
import { loopIdOf, type Clip, type Project } from '~core/arrangement/tree';
import type { LoopCard } from '~contracts/loop-card';
import { newId } from '~/ui/new-id';
import { useProject, useProjectStore } from '~/ui/project-store';
import { toast } from '~/ui/toast';
import { wholeLoops } from '~/ui/whole-loops';
import { DialogButtons } from './dialog-buttons';
import { HearIt, type Wanted } from './hear-it';
import { othersFor, othersInWords, type OthersFrom } from './siblings';
import type { ClipActs } from './use-acts';

const letters = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ';

/** Patterns that are often wanted, as letters. */
const patterns = ['AAAB', 'AB', 'AABB', 'AAAAAAAB', 'ABAC'];

/** Variation: others in turn in a clip's repetitions: A A A B, a fill in the last; heard before it is kept. */
export function VaryDialog({ project, clip, acts, onClose }: { project: Project; clip: Clip; acts: ClipActs; onClose: () => void }) {
  const dialog = useRef<HTMLDialogElement>(null),
    store = useProjectStore(),
    projectId = useProject((state) => state.id) ?? 0,
    row = useProject((state) => state.loops.get(loopIdOf(clip))),
    cycleBeats = acts.cycleBeatsOf(clip),
    times = repetitionLines(clip, cycleBeats).length,
    [from, setFrom] = useState<OthersFrom>(row?.setId == null ? 'like' : 'set'),
    [others, setOthers] = useState<readonly LoopCard[]>([]),
    /** What B, C, D … are. */
    [cast, setCast] = useState<readonly number[]>([]),
    [pattern, setPattern] = useState(times < 4 ? 'AB' : 'AAAB');
  useEffect(() => dialog.current?.showModal(), []);
  useEffect(() => {
    if (!row) return;
    let gone = false;
    void othersFor(row, from, projectId).then((found) => {
      if (gone) return;
      setOthers(found);
      setCast(found.slice(0, 3).map(({ id }) => id));
    });
    return () => {
      gone = true;
    };
  }, [row, from, projectId]);
  const used = [...new Set(pattern)].map((letter) => letters.indexOf(letter)).filter((place) => place > 0);
  const made = async (): Promise<Wanted> => {
    const rows = await wholeLoops().many(others.filter(({ id }) => used.some((place) => cast[place - 1] === id))),
      content = [...pattern].map((letter) => {
        const loopId = cast[letters.indexOf(letter) - 1];
        return letter === 'A' || loopId === undefined ? null : { kind: 'loop' as const, loopId };
      });
    return { edit: varyClip(project, clip.id, content, cycleBeats, newId), rows };
  };
  const change = (next: string) => {
    setPattern(
      next
        .toUpperCase()
        .replaceAll(/[^A-Z]/g, '')
        .slice(0, 32),
    );
    store.hearInstead(null);
  };
  return (
    <dialog ref={dialog} className="modal" onClose={onClose} aria-label="Variation">
      <form
        method="dialog"
        className="modal-box max-w-2xl"
        onSubmit={(event) => {
          event.preventDefault();
          void made().then(({ edit, rows }) => {
            const wrong = edit ? store.edit(edit, rows) : 'Nothing would change.';
            if (wrong) return void toast(wrong);
            dialog.current?.close();
          });
        }}
      >
        <h2>Variation</h2>
        {times < 2 ? (
          <p className="mt-2">It plays once here: repeat it first, or put another in its place.</p>
        ) : (
          <>
            <p className="quiet mt-1">
              It plays {times} times. A is what plays now; the others stand in for it by the pattern, which goes round.
            </p>
            <div className="mt-3 flex flex-wrap items-center gap-2">
              <label className="flex items-center gap-2">
                <span className="caps">Pattern</span>
                <input className="input input-sm w-40 tracking-widest" value={pattern} onChange={({ target }) => change(target.value)} />
              </label>
              {patterns.map((each) => (
                <button key={each} type="button" className="btn btn-xs" aria-pressed={each === pattern} onClick={() => change(each)}>
                  {each}
                </button>
              ))}
            </div>
            <ol className="mt-2 flex flex-wrap gap-1" aria-label="What plays in each repetition">
              {Array.from({ length: Math.min(64, times) }, (_, k) => {
                const letter = pattern[k % Math.max(1, pattern.length)] ?? 'A';
                return (
                  <li
                    key={k}
                    className={`min-w-7 rounded-sm border px-1 text-center ${letter === 'A' ? 'border-base-300' : 'border-primary font-semibold'}`}
                  >
                    {letter}
                  </li>
                );
              })}
            </ol>
            <label className="mt-3 flex items-center gap-2">
              <span className="caps">Others</span>
              <select className="select select-sm w-72" value={from} onChange={({ target }) => setFrom(target.value as OthersFrom)}>
                {(Object.keys(othersInWords) as OthersFrom[]).map((each) => (
                  <option key={each} value={each} disabled={each === 'set' && row?.setId == null}>
                    {othersInWords[each]}
                  </option>
                ))}
              </select>
            </label>
            <div className="mt-2 grid gap-1">
              <p className="truncate">
                <strong>A</strong> {row?.title}
              </p>
              {used.map((place) => (
                <label key={place} className="flex items-center gap-2">
                  <strong>{letters[place]}</strong>
                  <select
                    className="select select-sm min-w-0 flex-1"
                    aria-label={`What ${letters[place]} is`}
                    value={cast[place - 1] ?? ''}
                    onChange={({ target }) => {
                      const next = [...cast];
                      next[place - 1] = Number(target.value);
                      setCast(next);
                    }}
                  >
                    {others.length === 0 && <option value="">none found</option>}
                    {others.map((card) => (
                      <option key={card.id} value={card.id}>
                        {card.title}
                      </option>
                    ))}
                  </select>
                </label>
              ))}
            </div>
            <HearIt key={`${pattern} ${cast.join(' ')}`} project={project} fromBeat={clip.startBeat} make={made} />
          </>
        )}
        <DialogButtons dialog={dialog} />
      </form>
    </dialog>
  );
}
