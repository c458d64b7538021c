import { useEffect, useMemo, useRef, useState } from 'react';
import { plainestRun } from '~core/arrangement/plain-bars';
import { barsLengthened, middleCount, resizeSection, type Lengthening } from '~core/arrangement/acts/sections';
import type { Edit } from '~core/arrangement/edit';
import type { Project, Section } from '~core/arrangement/tree';
import { beatsPerBar } from '~core/units/time';
import { newId } from '~/ui/new-id';
import { useProject } from '~/ui/project-store';
import { barsHeard } from './bars-heard';
import { DialogButtons } from './dialog-buttons';
import { HearIt } from './hear-it';

const ways: Readonly<Record<Lengthening, string>> = {
  middle: 'by its middle: first and last bar stay, plain ones come again',
  all: 'by all of it from the start',
  empty: 'by empty bars at its end',
};

/** How many bars a section is to have, and by which of them it becomes longer. */
export function ResizeDialog({
  project,
  section,
  onClose,
  onMake,
}: {
  project: Project;
  section: Section;
  onClose: () => void;
  onMake: (edit: Edit | null, otherwise: string) => void;
}) {
  const dialog = useRef<HTMLDialogElement>(null),
    loops = useProject((state) => state.loops),
    bar = beatsPerBar(project.meter),
    now = Math.max(1, Math.round(section.lengthBeats / bar)),
    [bars, setBars] = useState(now + 2),
    [how, setHow] = useState<Lengthening>('middle'),
    heard = useMemo(() => barsHeard(project, section, loops), [project, section, loops]),
    plainest = bars > now && now > 2 ? plainestRun(heard, middleCount(now, bars)) : undefined,
    [wanted, setWanted] = useState<number | null>(null),
    from = wanted ?? plainest,
    plan = barsLengthened(now, bars, how, from);
  useEffect(() => dialog.current?.showModal(), []);
  return (
    <dialog ref={dialog} className="modal" onClose={onClose} aria-label={`How long ${section.name} is`}>
      <form
        method="dialog"
        className="modal-box"
        onSubmit={(event) => {
          event.preventDefault();
          onMake(resizeSection(project, section.id, bars, how, bar, newId, from), 'It is that long already.');
          dialog.current?.close();
        }}
      >
        <h2>How long “{section.name}” is</h2>
        <label className="mt-3 flex items-center gap-2">
          <input
            type="number"
            className="input input-sm w-20"
            min={1}
            max={256}
            value={bars}
            onChange={(event) => setBars(Math.max(1, Math.min(256, Math.round(Number(event.target.value)) || 1)))}
          />
          bars; now {now}
        </label>
        {bars > now && (
          <fieldset className="mt-3 grid gap-1">
            <legend className="caps">Longer</legend>
            {(Object.keys(ways) as Lengthening[]).map((each) => (
              <label key={each} className="flex items-center gap-2">
                <input type="radio" name="how" className="radio radio-sm" checked={how === each} onChange={() => setHow(each)} />
                {ways[each]}
              </label>
            ))}
          </fieldset>
        )}
        {bars > now && how === 'middle' && now > 2 && from !== undefined && (
          <label className="mt-3 flex items-center gap-2">
            again from bar
            <input
              type="number"
              className="input input-sm w-16"
              min={2}
              max={now - middleCount(now, bars)}
              value={from + 1}
              onChange={(event) => setWanted(Math.round(Number(event.target.value)) - 1)}
            />
            <span className="quiet">
              {wanted === null || wanted === plainest ? 'the plainest there is' : `the plainest would be ${(plainest ?? 0) + 1}`}
            </span>
          </label>
        )}
        <ol className="mt-3 flex flex-wrap gap-1" aria-label="Its bars then, each by the number it has now">
          {plan.slice(0, 64).map((old, place) => (
            <li
              key={place}
              className={`min-w-7 rounded-sm border px-1 text-center ${old >= 0 && plan.indexOf(old) !== place ? 'border-primary font-semibold' : 'border-base-300'}`}
            >
              {old < 0 ? '–' : old + 1}
            </li>
          ))}
        </ol>
        <HearIt
          key={plan.join(' ')}
          project={project}
          fromBeat={section.startBeat}
          make={() => ({ edit: resizeSection(project, section.id, bars, how, bar, newId, from) })}
        />
        <DialogButtons dialog={dialog} />
      </form>
    </dialog>
  );
}
