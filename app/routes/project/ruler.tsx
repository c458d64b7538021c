import { useRef, useState } from 'react';
import { MessageSquareText } from 'lucide-react';
import { gridBeats, snapped } from '~core/arrangement/grid';
import type { Project } from '~core/arrangement/tree';
import type { BarNote } from '~contracts/project-room';
import { useEngine, useEngineState } from '~/audio/hooks';
import { SectionMenu } from './section-menu';
import type { Look } from './timeline-view';

const isOwn = ({ currentTarget, target }: React.SyntheticEvent) => currentTarget.contains(target as Node);

/** Sections above, bars and beats below: a click puts the playhead there, a drag chooses the range that goes round. Both by keys too. */
export function Ruler({
  project,
  bars,
  barBeats,
  look,
  notes,
  onChooseClips,
}: {
  project: Project;
  bars: number;
  barBeats: number;
  look: Look;
  notes: readonly BarNote[];
  onChooseClips: (clipIds: string[]) => void;
}) {
  const engine = useEngine(),
    // Known anew whenever the range changes.
    shown = useEngineState((state) => state.range) && engine.chosenRange,
    node = useRef<HTMLDivElement>(null),
    [drag, setDrag] = useState<{ readonly from: number; readonly to: number } | null>(null),
    [spoken, setSpoken] = useState(''),
    { barPixels, drawn } = look,
    beatPixels = barPixels / barBeats,
    stepBeats = gridBeats(look.grid, barBeats),
    step = stepBeats ?? 1 / 4,
    every = barPixels >= 40 ? 1 : barPixels >= 20 ? 2 : barPixels >= 10 ? 4 : 8,
    firstBar = Math.max(0, Math.floor(drawn.fromX / barPixels / every) * every),
    lastBar = Math.min(bars, Math.ceil(drawn.toX / barPixels)),
    beatAt = (clientX: number) => Math.max(0, (clientX - (node.current?.getBoundingClientRect().left ?? 0)) / beatPixels),
    say = (beat: number) => setSpoken(`bar ${Math.floor(beat / barBeats) + 1}, beat ${Number(((beat % barBeats) + 1).toFixed(2))}`);
  const range = drag ? { startBeat: Math.min(drag.from, drag.to), endBeat: Math.max(drag.from, drag.to) } : shown;
  const onKeyDown = (event: React.KeyboardEvent) => {
    const way = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (!isOwn(event) || (way === 0 && event.key !== 'Escape')) return;
    event.preventDefault();
    event.stopPropagation();
    if (event.key === 'Escape') {
      engine.setRange(null);
      setSpoken('no range');
      return;
    }
    const here = engine.positionBeat(),
      beat = Math.max(0, snapped(here, step) + way * step);
    if (!event.shiftKey) {
      engine.seek(beat);
      say(beat);
      return;
    }
    const chosen = engine.chosenRange ?? { startBeat: snapped(here, step), endBeat: snapped(here, step) },
      endBeat = chosen.endBeat + way * step;
    engine.setRange(endBeat > chosen.startBeat ? { ...chosen, endBeat } : null);
    setSpoken(`range to bar ${Number((endBeat / barBeats).toFixed(2))}`);
  };
  return (
    <div
      ref={node}
      className="relative flex-1 cursor-pointer focus-visible:outline-2 focus-visible:-outline-offset-2 focus-visible:outline-primary"
      tabIndex={0}
      role="group"
      aria-label="Bars: arrows move the playhead, with Shift they choose the range that goes round, Escape leaves it"
      data-ruler
      onKeyDown={onKeyDown}
      onPointerDown={(event) => {
        // What a menu or a dialog of a section is told comes here too, though it lies elsewhere.
        if (event.button !== 0 || !isOwn(event) || (event.target as HTMLElement).closest('button')) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        const at = snapped(beatAt(event.clientX), event.altKey ? null : step);
        setDrag({ from: at, to: at });
      }}
      onPointerMove={(event) => drag && setDrag({ ...drag, to: snapped(beatAt(event.clientX), event.altKey ? null : step) })}
      onPointerUp={(event) => {
        if (!drag) return;
        setDrag(null);
        if (Math.abs(drag.to - drag.from) > 1e-6)
          engine.setRange({ startBeat: Math.min(drag.from, drag.to), endBeat: Math.max(drag.from, drag.to) });
        else engine.seek(Math.floor(beatAt(event.clientX) / step) * step);
      }}
      onPointerCancel={() => setDrag(null)}
      onDoubleClick={(event) => isOwn(event) && engine.setRange(null)}
    >
      {range && (
        <span
          className="pointer-events-none absolute bottom-0 h-5 rounded-sm bg-primary/25"
          style={{ left: range.startBeat * beatPixels, width: (range.endBeat - range.startBeat) * beatPixels }}
          title="Goes round"
        />
      )}
      {notes
        .filter(({ answersId, doneAt }) => answersId === null && doneAt === null)
        .map(({ id, beat, note, person }) => (
          <button
            key={id}
            className="absolute bottom-0 z-1 flex h-6 w-6 items-end"
            style={{ left: beat * beatPixels + 20 }}
            aria-label={`Note to bar ${Math.floor(beat / barBeats) + 1}: ${note}`}
            title={`${person}: ${note}`}
            onClick={() => engine.seek(beat)}
          >
            <MessageSquareText className="mb-0.5 size-3.5 fill-accent text-accent-content" aria-hidden="true" />
          </button>
        ))}
      {project.sections.map((section) => (
        <SectionMenu
          key={section.id}
          project={project}
          section={section}
          beatPixels={beatPixels}
          stepBeats={stepBeats}
          onChooseClips={onChooseClips}
        />
      ))}
      {Array.from({ length: Math.max(0, Math.ceil((lastBar - firstBar) / every)) }, (_, k) => {
        const bar = firstBar + k * every;
        return (
          <span
            key={bar}
            className="quiet pointer-events-none absolute bottom-0.5 text-[0.79rem] leading-4"
            style={{ left: bar * barPixels + 3 }}
          >
            {bar + 1}
          </span>
        );
      })}
      {beatPixels >= 24 &&
        Array.from({ length: (lastBar - firstBar) * barBeats }, (_, k) => firstBar * barBeats + k).map((beat) => (
          <span
            key={beat}
            className={`pointer-events-none absolute bottom-0 w-px bg-base-content/40 ${beat % barBeats === 0 ? 'h-3' : 'h-1.5'}`}
            style={{ left: beat * beatPixels }}
          />
        ))}
      <span role="status" className="sr-only">
        {spoken}
      </span>
    </div>
  );
}
