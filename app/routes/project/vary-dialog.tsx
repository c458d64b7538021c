import { useEffect, useRef, useState } from 'react';
import { group } from 'd3-array';
import { repetitionLines, varyClips } from '~core/arrangement/acts/shaping';
import { loopIdOf, type Clip, type Project } from '~core/arrangement/tree';
import { newId } from '~/ui/new-id';
import { useProjectStore } from '~/ui/project-store';
import { toast } from '~/ui/toast';
import { wholeLoops } from '~/ui/whole-loops';
import { DialogButtons } from './dialog-buttons';
import { HearIt, type Wanted } from './hear-it';
import type { ClipActs } from './use-acts';
import { letters, noVoice, VaryVoice, type Voice } from './vary-voice';

/** Patterns that are often wanted, as letters. */
const patterns = ['AAAB', 'AB', 'AABB', 'AAAAAAAB', 'ABAC'];

/** The loop of a clip that plays one. */
const playedBy = (clip: Clip): number => loopIdOf(clip) ?? 0;

/** Variation: others in turn in the repetitions of clips: A A A B, a fill in the last; each clip has its own others, the pattern is one. */
export function VaryDialog({
  project,
  clips,
  acts,
  onClose,
}: {
  project: Project;
  clips: readonly Clip[];
  acts: ClipActs;
  onClose: () => void;
}) {
  const dialog = useRef<HTMLDialogElement>(null),
    store = useProjectStore(),
    timesOf = (clip: Clip) => repetitionLines(clip, acts.cycleBeatsOf(clip)).length,
    // Notes vary by being made their own, and changed.
    repeated = clips.filter((clip) => clip.content.kind === 'loop' && timesOf(clip) > 1),
    /** Clips of one loop are varied alike. */
    byLoop = [...group(repeated, playedBy)],
    times = Math.max(1, ...repeated.map(timesOf)),
    [voices, setVoices] = useState<Readonly<Record<string, Voice>>>({}),
    voiceOf = (loopId: number) => voices[loopId] ?? noVoice,
    [pattern, setPattern] = useState(times < 4 ? 'AB' : 'AAAB'),
    places = [...new Set(pattern)].map((letter) => letters.indexOf(letter));
  useEffect(() => dialog.current?.showModal(), []);
  const made = async (): Promise<Wanted> => {
    const variations = repeated.map((clip) => ({
        clipId: clip.id,
        cycleBeats: acts.cycleBeatsOf(clip),
        pattern: [...pattern].map((letter) => {
          const loopId = voiceOf(playedBy(clip)).cast[letters.indexOf(letter) - 1];
          return letter === 'A' || loopId === undefined ? null : { kind: 'loop' as const, loopId };
        }),
      })),
      wanted = new Set(variations.flatMap((each) => each.pattern.map((content) => content?.loopId))),
      cards = byLoop.flatMap(([loopId]) => voiceOf(loopId).others).filter(({ id }) => wanted.has(id)),
      rows = await wholeLoops().many([...new Map(cards.map((card) => [card.id, card])).values()]);
    return { edit: varyClips(project, variations, newId), rows };
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
        {repeated.length === 0 ? (
          <p className="mt-2">It plays once here: repeat it first, or put another in its place.</p>
        ) : (
          <>
            <p className="quiet mt-1">A is what plays now; the others stand in for it by the pattern, which goes round.</p>
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
            {byLoop.map(([loopId, ofLoop]) => (
              <VaryVoice
                key={loopId}
                loopId={loopId}
                times={ofLoop.reduce((sum, clip) => sum + timesOf(clip), 0)}
                places={places}
                voice={voiceOf(loopId)}
                onChange={(voice) => {
                  setVoices((before) => ({ ...before, [loopId]: voice }));
                  store.hearInstead(null);
                }}
              />
            ))}
            <HearIt
              key={`${pattern} ${JSON.stringify(byLoop.map(([loopId]) => voiceOf(loopId).cast))}`}
              project={project}
              fromBeat={Math.min(...repeated.map(({ startBeat }) => startBeat))}
              make={made}
            />
          </>
        )}
        <DialogButtons dialog={dialog} />
      </form>
    </dialog>
  );
}
