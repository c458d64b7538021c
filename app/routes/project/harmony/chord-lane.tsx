import { useRef, useState } from 'react';
import { moveChordStart, putChord, removeChord, setChordEnd } from '~core/arrangement/acts/chords';
import { snapped } from '~core/arrangement/grid';
import { keyAt, chordLengths } from '~core/arrangement/harmony/harmony';
import { projectEndBeat, type ChordMark, type Project } from '~core/arrangement/tree';
import { noChord } from '~core/theory/chord';
import { isChordSymbol } from '~core/theory/chord-line';
import { belongingOf, belongingWords, degreeOf } from '~core/theory/degrees';
import { beatsPerBar } from '~core/units/time';
import { useEngine } from '~/audio/hooks';
import { useRubs } from '~/ui/harmony/rubs';
import { useProjectStore } from '~/ui/project-store';
import { toast } from '~/ui/toast';
import type { Look } from '../timeline-view';
import { ChordInput } from './chord-input';

export const chordLaneHeight = 26;

/** How wide a letter of a chord is at the most. */
const letterPixels = 8;

/** How each kind is marked: by its ground, and by a line under it, so that colour is never the only sign. */
const looks = {
  belongs: 'bg-base-300',
  borrowed: 'bg-base-300 underline decoration-dotted underline-offset-3',
  outside: 'bg-warning text-warning-content',
} as const;

/** The chord line over the bars: typed, moved, made longer, taken out; by pointer and by keys. */
export function ChordLane({ project, look, stepBeats }: { project: Project; look: Look; stepBeats: number | null }) {
  const store = useProjectStore(),
    engine = useEngine(),
    rubs = useRubs(),
    lane = useRef<HTMLDivElement>(null),
    bar = beatsPerBar(project.meter),
    beatPixels = look.barPixels / bar,
    step = stepBeats ?? 1 / 4,
    least = Math.min(step, 1),
    [editing, setEditing] = useState<number | null>(null),
    [drag, setDrag] = useState<{
      readonly index: number;
      readonly edge: 'start' | 'end';
      readonly fromX: number;
      readonly beats: number;
    } | null>(null),
    set = (chords: readonly ChordMark[]) => {
      const wrong = store.edit({ kind: 'set-chords', chords });
      if (wrong) toast.error(wrong);
    };
  const moved = (index: number, edge: 'start' | 'end', by: number, chords = project.chords): ChordMark[] => {
      const end = chords[index].startBeat + lengths[index];
      return edge === 'start'
        ? moveChordStart(chords, index, snapped(chords[index].startBeat + by, step), least)
        : setChordEnd(chords, index, snapped(end + by, step), least);
    },
    lengths = chordLengths(project.chords, Math.max(projectEndBeat(project), bar)),
    shown = drag && drag.beats !== 0 ? moved(drag.index, drag.edge, drag.beats) : project.chords,
    shownLengths = drag ? chordLengths(shown, Math.max(projectEndBeat(project), bar)) : lengths,
    beatAt = (clientX: number) => Math.max(0, (clientX - (lane.current?.getBoundingClientRect().left ?? 0)) / beatPixels);
  const write = (startBeat: number, symbol: string): boolean => {
    if (symbol === '') set(removeChord(project.chords, startBeat));
    else if (!isChordSymbol(symbol)) {
      toast.error(`“${symbol}” is no chord. Write them like Dm7, F♯m, B♭/D; N.C. where none sounds.`);
      return false;
    } else set(putChord(project.chords, startBeat, symbol));
    setEditing(null);
    return true;
  };
  const focusOn = (index: number) => lane.current?.querySelectorAll<HTMLElement>('[data-chord]')[index]?.focus();
  return (
    <div
      ref={lane}
      className="relative border-t border-base-300 bg-base-100"
      style={{ height: chordLaneHeight }}
      role="group"
      aria-label="Chords: double click or Enter writes one; arrows go from one to the next, with Shift they make one longer or shorter, with Alt they move where it begins; Delete takes it out"
      tabIndex={0}
      data-chord-lane
      onKeyDown={(event) => {
        if (event.target !== event.currentTarget) return;
        if (event.key === 'Enter') setEditing(snapped(engine.positionBeat(), step));
        else if (event.key === 'ArrowRight' || event.key === 'ArrowDown') focusOn(0);
        else return;
        event.preventDefault();
        event.stopPropagation();
      }}
      onDoubleClick={(event) => event.target === event.currentTarget && setEditing(Math.floor(beatAt(event.clientX) / step + 1e-6) * step)}
    >
      {shown.map((chord, index) => {
        const key = keyAt(project, chord.startBeat),
          belonging = key ? belongingOf(chord.symbol, key) : null,
          degree = key && chord.symbol !== noChord ? degreeOf(chord.symbol, key) : null,
          width = Math.max(8, shownLengths[index] * beatPixels - 2),
          isNone = chord.symbol === noChord,
          fits = width >= chord.symbol.length * letterPixels + 12,
          // Where there is no room for all, what a section begins with is told.
          begins = !fits && project.sections.some(({ startBeat }) => Math.abs(startBeat - chord.startBeat) < 1e-6);
        return (
          <button
            key={project.chords[index]?.startBeat ?? `new ${index}`}
            data-chord
            className={`absolute top-0.5 h-4.5 touch-none rounded-sm px-1.5 text-left ${begins ? 'z-1 overflow-visible whitespace-nowrap' : 'truncate'} text-[0.86rem] leading-4.5 font-semibold focus-visible:z-10 focus-visible:outline-2 focus-visible:outline-primary ${isNone ? 'text-base-content/70' : belonging ? looks[belonging] : 'bg-base-300'}`}
            style={{ left: chord.startBeat * beatPixels + 1, width }}
            aria-label={`${chord.symbol}${degree ? ` ${degree}` : ''}, from ${placeOf(chord.startBeat, bar)} for ${Number(shownLengths[index].toFixed(2))} beats${belonging ? `; ${belongingWords[belonging].label}` : ''}`}
            title={`${chord.symbol}${degree ? ` · ${degree}` : ''}${belonging ? ` · ${belongingWords[belonging].label}: ${belongingWords[belonging].says}` : ''}`}
            onPointerDown={(event) => {
              if (event.button !== 0) return;
              event.currentTarget.setPointerCapture(event.pointerId);
              const box = event.currentTarget.getBoundingClientRect();
              setDrag({
                index,
                edge: box.right - event.clientX < Math.min(10, box.width / 3) ? 'end' : 'start',
                fromX: event.clientX,
                beats: 0,
              });
            }}
            onPointerMove={(event) => {
              if (!drag) return;
              const beats = (event.clientX - drag.fromX) / beatPixels;
              setDrag({ ...drag, beats: Math.abs(event.clientX - drag.fromX) < 4 ? 0 : beats });
            }}
            onPointerUp={() => {
              if (drag && drag.beats !== 0) set(moved(drag.index, drag.edge, drag.beats));
              setDrag(null);
            }}
            onPointerCancel={() => setDrag(null)}
            onDoubleClick={() => setEditing(chord.startBeat)}
            onKeyDown={(event) => {
              const way = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
              if (event.key === 'Enter' || event.key === 'F2') setEditing(chord.startBeat);
              else if (event.key === 'Delete' || event.key === 'Backspace') set(removeChord(project.chords, chord.startBeat));
              else if (way !== 0 && event.shiftKey) set(moved(index, 'end', way * step));
              else if (way !== 0 && event.altKey) set(moved(index, 'start', way * step));
              else if (way !== 0) focusOn(index + way);
              else return;
              event.preventDefault();
              event.stopPropagation();
            }}
          >
            {/* A part of a name would tell of another chord. */}
            {(fits || begins) && chord.symbol} {degree && width > 70 && <span className="ml-0.5 font-normal opacity-80">{degree}</span>}
          </button>
        );
      })}
      {editing !== null && (
        <ChordInput
          left={editing * beatPixels}
          initial={project.chords.find(({ startBeat }) => Math.abs(startBeat - editing) < 1e-6)?.symbol ?? ''}
          musicalKey={keyAt(project, editing)}
          onWrite={(symbol) => write(editing, symbol)}
          onLeave={() => setEditing(null)}
        />
      )}
      {rubs.map((rub) => (
        <span
          key={`${rub.clipId} ${rub.otherClipId} ${rub.pitch} ${rub.otherPitch} ${rub.startBeat}`}
          className="pointer-events-none absolute bottom-0 h-1 bg-error"
          style={{
            left: rub.startBeat * beatPixels,
            width: Math.max(3, (rub.endBeat - rub.startBeat) * beatPixels - 1),
            opacity: 0.35 + 0.65 * rub.degree,
          }}
          aria-hidden="true"
        />
      ))}
    </div>
  );
}

/** `bar 3`, or `bar 3, beat 2`. */
export const placeOf = (beat: number, bar: number): string => {
  const into = Number(((beat % bar) + 1).toFixed(2));
  return `bar ${Math.floor(beat / bar + 1e-6) + 1}${into > 1.001 ? `, beat ${into}` : ''}`;
};
