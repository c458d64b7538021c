import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { moved } from '~core/arrangement/pattern/edit-notes';
import type { Harmonic } from '~core/arrangement/harmony/harmony';
import type { Pattern, PatternNote, SoundingNote } from '~core/arrangement/pattern/pattern';
import { useEngine } from '~/audio/hooks';
import { Canvas } from '~/ui/canvas';
import { MovingHead } from '~/ui/moving-head';
import { newId } from '~/ui/new-id';
import { drumRows, melodicRows, noteAt, notesIn, pitchAt, rowCount, rowName, topOf } from './roll-rows';
import { useDrawings } from './use-drawings';
import type { NoteActs } from './use-note-acts';

const namesWidth = { melodic: 44, drums: 128 } as const,
  velocityHeight = 46,
  leastDragPixels = 3;

type Drag =
  | { readonly kind: 'move' | 'length' | 'copy'; readonly fromX: number; readonly fromY: number; readonly notes: readonly PatternNote[] }
  | { readonly kind: 'band'; readonly fromX: number; readonly fromY: number; readonly toX: number; readonly toY: number }
  | { readonly kind: 'velocity'; readonly fromY: number; readonly notes: readonly PatternNote[] };

/** The notes of a pattern on rows and beats, with their velocities below: added, moved, made longer, chosen; by pointer and by keys. */
export function Roll({
  pattern,
  acts,
  chosen,
  onChoose,
  gridBeats,
  barBeats,
  beatPixels,
  onZoom,
  harmony,
  clipBeat,
  colour,
  ghosts,
  onHear,
}: {
  pattern: Pattern;
  acts: NoteActs;
  chosen: ReadonlySet<string>;
  onChoose: (ids: Iterable<string>) => void;
  gridBeats: number;
  barBeats: number;
  beatPixels: number;
  onZoom: (times: number) => void;
  harmony: Harmonic;
  /** The beat of the piece at which the pattern is heard for the first time in the clip that is looked at. */
  clipBeat: number;
  colour: number;
  /** What is heard of it over the chords, in beats of the pattern. */
  ghosts: readonly SoundingNote[];
  onHear: (pitch: number, velocity: number) => void;
}) {
  const engine = useEngine(),
    rows = pattern.isDrums ? drumRows : melodicRows,
    scroller = useRef<HTMLDivElement>(null),
    [scroll, setScroll] = useState({ x: 0, y: 0 }),
    [drag, setDrag] = useState<Drag | null>(null),
    [draft, setDraft] = useState<readonly PatternNote[] | null>(null),
    [cursor, setCursor] = useState({ beat: 0, pitch: pattern.isDrums ? 38 : 60 }),
    nameWidth = pattern.isDrums ? namesWidth.drums : namesWidth.melodic,
    width = (pattern.lengthBeats + barBeats) * beatPixels;
  // First where the notes are.
  useLayoutEffect(() => {
    const box = scroller.current;
    if (!box) return;
    const pitches = pattern.notes.map(({ pitch }) => pitch),
      middle = pitches.length > 0 ? (Math.min(...pitches) + Math.max(...pitches)) / 2 : pattern.isDrums ? 43 : 62;
    box.scrollTop = topOf(rows, middle) - box.clientHeight / 2;
    // For another pattern only: what is edited stays where it is.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [pattern.id]);
  /** Beat of the pattern under the playhead; null before the clip. */
  const playedBeat = () => {
    const into = engine.positionBeat() - clipBeat;
    return into < -1e-6 ? null : Math.max(0, into) % pattern.lengthBeats;
  };
  const { drawGrid, drawLeft, drawBelow } = useDrawings({
    rows,
    notes: pattern.notes,
    draft,
    chosen,
    lengthBeats: pattern.lengthBeats,
    barBeats,
    gridBeats,
    beatPixels,
    scroll,
    harmony,
    atBeat: clipBeat,
    cursor,
    colour,
    ghosts,
  });
  const snap = (beat: number, isFree: boolean) => Math.max(0, isFree ? beat : Math.round(beat / gridBeats) * gridBeats),
    placeOf = (event: React.PointerEvent | React.MouseEvent) => {
      const box = scroller.current?.getBoundingClientRect();
      return { x: event.clientX - (box?.left ?? 0) + scroll.x, y: event.clientY - (box?.top ?? 0) + scroll.y };
    },
    chosenWith = (note: PatternNote, adds: boolean): PatternNote[] => {
      const ids = chosen.has(note.id) ? chosen : new Set([...(adds ? chosen : []), note.id]);
      onChoose(ids);
      return pattern.notes.filter(({ id }) => ids.has(id));
    };
  const onDown = (event: React.PointerEvent) => {
    if (event.button !== 0) return;
    scroller.current?.focus({ preventScroll: true });
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    const { x, y } = placeOf(event),
      under = noteAt(pattern.notes, rows, beatPixels, x, y);
    setCursor({ beat: Math.floor(x / beatPixels / gridBeats + 1e-6) * gridBeats, pitch: pitchAt(rows, y) });
    if (!under) {
      setDrag({ kind: 'band', fromX: x, fromY: y, toX: x, toY: y });
      if (!event.shiftKey) onChoose([]);
      return;
    }
    onHear(under.note.pitch, under.note.velocity);
    const kind = under.isEnd ? 'length' : event.ctrlKey || event.metaKey ? 'copy' : 'move';
    setDrag({ kind, fromX: x, fromY: y, notes: chosenWith(under.note, event.shiftKey) });
  };
  const onMove = (event: React.PointerEvent) => {
    if (!drag || drag.kind === 'velocity') return;
    const { x, y } = placeOf(event);
    if (drag.kind === 'band') {
      setDrag({ ...drag, toX: x, toY: y });
      return;
    }
    if (!draft && Math.hypot(x - drag.fromX, y - drag.fromY) < leastDragPixels) return;
    const [first] = drag.notes,
      raw = (x - drag.fromX) / beatPixels,
      beats =
        drag.kind === 'length'
          ? snap(first.startBeat + first.lengthBeats + raw, event.altKey) - first.startBeat - first.lengthBeats
          : snap(first.startBeat + raw, event.altKey) - first.startBeat,
      semitones = drag.kind === 'length' ? 0 : pitchAt(rows, y) - pitchAt(rows, drag.fromY),
      next = moved(drag.notes, drag.kind === 'length' ? { lengthBeats: beats } : { beats, semitones });
    if (semitones !== 0 && draft?.[0]?.pitch !== next[0].pitch) onHear(next[0].pitch, next[0].velocity);
    setDraft(drag.kind === 'copy' ? next.map((note, k) => ({ ...note, id: draft?.[k]?.id ?? newId() })) : next);
  };
  const onUp = () => {
    if (drag?.kind === 'band') {
      const found = notesIn(pattern.notes, rows, beatPixels, drag);
      if (Math.hypot(drag.toX - drag.fromX, drag.toY - drag.fromY) >= leastDragPixels) onChoose(new Set([...chosen, ...found]));
    } else if (draft) {
      acts.put(draft);
      onChoose(draft.map(({ id }) => id));
    }
    setDraft(null);
    setDrag(null);
  };
  const addAt = (beat: number, pitch: number) => {
    if (beat >= pattern.lengthBeats - 1e-6) return;
    acts.add({ startBeat: beat, lengthBeats: gridBeats, pitch, velocity: 96 });
    onHear(pitch, 96);
  };
  const walk = (way: 1 | -1) => {
    const at = pattern.notes.findIndex(({ id }) => chosen.has(id)),
      next = pattern.notes[at < 0 ? (way > 0 ? 0 : pattern.notes.length - 1) : at + way];
    if (!next) return false;
    onChoose([next.id]);
    setCursor({ beat: next.startBeat, pitch: next.pitch });
    onHear(next.pitch, next.velocity);
    return true;
  };
  const onKeyDown = (event: React.KeyboardEvent) => {
    const control = event.ctrlKey || event.metaKey,
      x = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0,
      y = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0,
      key = event.key.toLowerCase(),
      isOne = chosen.size > 0;
    let used = true;
    if (x !== 0 && isOne && event.altKey) acts.move({ lengthBeats: x * gridBeats });
    else if (x !== 0 && isOne) acts.move({ beats: x * (event.shiftKey ? barBeats : gridBeats) });
    else if (y !== 0 && isOne && control) acts.move({ velocity: y * 8 });
    else if (y !== 0 && isOne) {
      acts.move({ semitones: y * (event.shiftKey && !pattern.isDrums ? 12 : 1) });
      const first = acts.meant[0];
      if (first) onHear(first.pitch + y, first.velocity);
    } else if (x !== 0 || y !== 0)
      setCursor(({ beat, pitch }) => ({
        beat: Math.max(0, Math.min(pattern.lengthBeats - gridBeats, beat + x * gridBeats)),
        pitch: Math.max(rows.lowest, Math.min(rows.highest, pitch + y)),
      }));
    else if (event.key === 'Enter') addAt(cursor.beat, cursor.pitch);
    else if (event.key === 'Delete' || event.key === 'Backspace') acts.remove();
    else if (event.key === 'Tab' && pattern.notes.length > 0) used = walk(event.shiftKey ? -1 : 1);
    else if (event.key === 'Escape') {
      if (!isOne) used = false;
      onChoose([]);
    } else if (control && key === 'a') onChoose(pattern.notes.map(({ id }) => id));
    else if (control && key === 'd') acts.onceMore(gridBeats);
    else if (control && key === 'c') acts.copy();
    else if (control && key === 'v') acts.paste(cursor.beat);
    else if (!control && key === 'q') acts.quantise(gridBeats, 1, 0);
    else if (event.key === '+' || event.key === '-') onZoom(event.key === '+' ? 1.25 : 0.8);
    else used = false;
    if (!used) return;
    event.preventDefault();
    event.stopPropagation();
  };
  // What the keys move stays in view.
  useEffect(() => {
    const box = scroller.current;
    if (!box) return;
    const left = cursor.beat * beatPixels,
      top = topOf(rows, cursor.pitch);
    if (left < box.scrollLeft || left > box.scrollLeft + box.clientWidth - 20) box.scrollLeft = left - box.clientWidth / 2;
    if (top < box.scrollTop || top > box.scrollTop + box.clientHeight - rows.height) box.scrollTop = top - box.clientHeight / 2;
  }, [cursor, beatPixels, rows]);
  const one = chosen.size === 1 ? pattern.notes.find(({ id }) => chosen.has(id)) : null;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex min-h-0 flex-1">
        <div className="shrink-0 border-r border-base-300" style={{ width: nameWidth }}>
          <Canvas draw={drawLeft} className="size-full" />
        </div>
        <div
          ref={scroller}
          className="relative min-w-0 flex-1 touch-none overflow-auto focus-visible:outline-2 focus-visible:-outline-offset-2 focus-visible:outline-primary"
          tabIndex={0}
          role="application"
          aria-label={`Notes of ${pattern.name}: Tab goes from note to note, arrows move what is chosen, with Alt they make it longer, with Ctrl up and down harder; Enter adds at the cursor, Delete takes out, Q quantises`}
          data-roll
          onScroll={({ currentTarget }) => setScroll({ x: currentTarget.scrollLeft, y: currentTarget.scrollTop })}
          onKeyDown={onKeyDown}
          onWheel={(event) => {
            if (!event.ctrlKey) return;
            onZoom(event.deltaY < 0 ? 1.15 : 0.87);
          }}
        >
          <div
            className="relative"
            style={{ width, height: rowCount(rows) * rows.height }}
            onPointerDown={onDown}
            onPointerMove={onMove}
            onPointerUp={onUp}
            onPointerCancel={() => {
              setDrag(null);
              setDraft(null);
            }}
            onDoubleClick={(event) => {
              const { x, y } = placeOf(event);
              if (noteAt(pattern.notes, rows, beatPixels, x, y)) return;
              addAt(Math.floor(x / beatPixels / gridBeats + 1e-6) * gridBeats, pitchAt(rows, y));
            }}
          >
            <div className="pointer-events-none sticky top-0 left-0 h-0 w-0">
              <StuckCanvas scroller={scroller} draw={drawGrid} />
            </div>
            {drag?.kind === 'band' && (
              <div
                className="pointer-events-none absolute border border-primary bg-primary/15"
                style={{
                  left: Math.min(drag.fromX, drag.toX),
                  top: Math.min(drag.fromY, drag.toY),
                  width: Math.abs(drag.toX - drag.fromX),
                  height: Math.abs(drag.toY - drag.fromY),
                }}
              />
            )}
            <MovingHead at={playedBeat} beatPixels={beatPixels} className="w-px" />
          </div>
        </div>
      </div>
      <div className="flex shrink-0 border-t border-base-300" style={{ height: velocityHeight }}>
        <span className="caps flex shrink-0 items-center border-r border-base-300 px-1.5" style={{ width: nameWidth }}>
          {pattern.isDrums ? 'How hard' : 'Vel.'}
        </span>
        <div
          className="min-w-0 flex-1 cursor-ns-resize touch-none"
          title="Drag up or down: how hard the note is struck, or all that are chosen"
          onPointerDown={(event) => {
            const box = event.currentTarget.getBoundingClientRect(),
              beat = (event.clientX - box.left + scroll.x) / beatPixels,
              near = pattern.notes.filter(({ startBeat }) => Math.abs(startBeat - beat) * beatPixels < 6),
              note = near.find(({ id }) => chosen.has(id)) ?? near[0];
            if (!note) return;
            event.currentTarget.setPointerCapture(event.pointerId);
            setDrag({ kind: 'velocity', fromY: event.clientY, notes: chosenWith(note, false) });
          }}
          onPointerMove={(event) =>
            drag?.kind === 'velocity' &&
            setDraft(moved(drag.notes, { velocity: ((drag.fromY - event.clientY) / (velocityHeight - 3)) * 127 }))
          }
          onPointerUp={() => {
            if (draft) acts.put(draft);
            setDraft(null);
            setDrag(null);
          }}
        >
          <Canvas draw={drawBelow} className="size-full" />
        </div>
      </div>
      <span role="status" className="sr-only">
        {one
          ? `${rowName(rows, one.pitch)}, beat ${Number((one.startBeat + 1).toFixed(2))}, ${Number(one.lengthBeats.toFixed(2))} beats long, velocity ${one.velocity}`
          : chosen.size > 1
            ? `${chosen.size} notes chosen`
            : `Cursor on ${rowName(rows, cursor.pitch)}, beat ${Number((cursor.beat + 1).toFixed(2))}`}
      </span>
    </div>
  );
}

/** A canvas that fills what is in view of a scrolled box, and stays there. */
function StuckCanvas({
  scroller,
  draw,
}: {
  scroller: React.RefObject<HTMLDivElement | null>;
  draw: (context: CanvasRenderingContext2D, width: number, height: number) => void;
}) {
  const [size, setSize] = useState({ width: 0, height: 0 });
  // The box is known only when all of it stands.
  useEffect(() => {
    const box = scroller.current;
    if (!box) return;
    const measure = () => setSize({ width: box.clientWidth, height: box.clientHeight }),
      observer = new ResizeObserver(measure);
    observer.observe(box);
    measure();
    return () => observer.disconnect();
  }, [scroller]);
  return (
    <div style={size}>
      <Canvas draw={draw} className="size-full" />
    </div>
  );
}
