import { useState } from 'react';
import { toast } from '~/ui/toast';
import type { Project } from '~core/arrangement/tree';
import { beatsPerBar, meters } from '~core/units/time';
import { useEngine } from '~/audio/hooks';
import { DragSlider } from '~/ui/drag-slider';
import { signed, tempoText } from '~/ui/format';
import { KeySelect } from '~/ui/harmony/key-select';
import { Popover } from '~/ui/popover';
import { useProjectStore } from '~/ui/project-store';
import { newId } from '~/ui/new-id';

/** Name, tempo, key, meter and master. A change of tempo keeps every clip on its bars; a change of key moves pitched material only. */
export function ProjectHead({ project }: { project: Project }) {
  const projectStore = useProjectStore(),
    engine = useEngine();
  const change = (changes: Partial<Pick<Project, 'name' | 'tempoBpm' | 'key' | 'meter' | 'masterGainDb'>>) => {
    const refused = projectStore.edit({ kind: 'set-project', changes });
    if (refused) toast.error(refused);
  };
  return (
    <div className="flex shrink-0 flex-wrap items-end gap-3 border-b border-base-300 px-3 py-2">
      <h1 className="sr-only">{project.name}</h1>
      <Field label="Name" width="w-64" value={project.name} onCommit={(name) => change({ name })} />
      <Field
        label="Tempo"
        width="w-20"
        value={tempoText(project.tempoBpm)}
        onCommit={(text) => change({ tempoBpm: Number(text.replace(',', '.')) })}
      />
      <label className="flex flex-col gap-0.5">
        <span className="caps">Key</span>
        <KeySelect label="Key" value={project.key} onChange={(key) => change({ key })} />
      </label>
      <label className="flex flex-col gap-0.5">
        <span className="caps">Meter</span>
        <select className="select select-sm w-20" value={project.meter} onChange={(event) => change({ meter: event.target.value })}>
          {meters.map((meter) => (
            <option key={meter}>{meter}</option>
          ))}
        </select>
      </label>
      <label className="flex w-44 flex-col-reverse gap-0.5">
        <DragSlider
          className="range range-xs mb-2 mt-1.5"
          min={-24}
          max={6}
          step={0.5}
          value={project.masterGainDb}
          onDraft={(masterGainDb) => engine.hearLevels(project.tracks, masterGainDb)}
          onCommit={(masterGainDb) => change({ masterGainDb })}
        >
          {(masterGainDb) => (
            <span className="caps flex justify-between">
              Master<span>{signed(masterGainDb, 1)} dB</span>
            </span>
          )}
        </DragSlider>
      </label>
      <Sections project={project} />
    </div>
  );
}

/** A text that is taken on Enter or on leaving it. */
export function Field({
  label,
  value,
  width,
  onCommit,
  plain = false,
}: {
  label: string;
  value: string;
  width: string;
  onCommit: (text: string) => void;
  plain?: boolean;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const commit = () => {
    if (draft !== null && draft.trim() !== value) onCommit(draft.trim());
    setDraft(null);
  };
  return (
    <label className="flex flex-col gap-0.5">
      <span className={plain ? 'sr-only' : 'caps'}>{label}</span>
      <input
        className={`${plain ? 'input input-ghost input-xs font-medium' : 'input input-sm'} ${width}`}
        value={draft ?? value}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === 'Enter') {
            commit();
            event.currentTarget.blur();
          }
          if (event.key === 'Escape') {
            setDraft(null);
          }
        }}
      />
    </label>
  );
}

function Sections({ project }: { project: Project }) {
  const projectStore = useProjectStore(),
    bar = beatsPerBar(project.meter),
    last = project.sections.at(-1),
    from = last ? (last.startBeat + last.lengthBeats) / bar + 1 : 1;
  return (
    <Popover label="Sections">
      {project.sections.length === 0 && (
        <p className="quiet">No sections yet. They structure the ribbon, and tell how long a placed loop lasts.</p>
      )}
      <ul className="flex flex-col gap-1">
        {project.sections.map((section) => (
          <li key={section.id} className="flex items-center gap-2">
            <Field
              plain
              label={`Name of the section at bar ${section.startBeat / bar + 1}`}
              width="w-36"
              value={section.name}
              onCommit={(name) => void projectStore.edit({ kind: 'set-section', sectionId: section.id, changes: { name } })}
            />
            <span className="quiet flex-1">
              bars {section.startBeat / bar + 1}–{(section.startBeat + section.lengthBeats) / bar}
            </span>
            <button className="link" onClick={() => void projectStore.edit({ kind: 'remove-section', sectionId: section.id })}>
              remove
            </button>
          </li>
        ))}
      </ul>
      <form
        className="mt-2 flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          const form = new FormData(event.currentTarget);
          const refused = projectStore.edit({
            kind: 'add-section',
            section: {
              kind: 'section',
              id: newId(),
              name: String(form.get('name')).trim(),
              startBeat: (Number(form.get('bar')) - 1) * bar,
              lengthBeats: Number(form.get('bars')) * bar,
            },
          });
          if (refused) toast.error(refused);
          event.currentTarget.reset();
        }}
      >
        <input name="name" className="input input-sm flex-1" placeholder="Name" required aria-label="Name of the new section" />
        <label className="flex flex-col">
          <span className="caps">at bar</span>
          <input key={from} name="bar" type="number" min={1} className="input input-sm w-16" defaultValue={from} />
        </label>
        <label className="flex flex-col">
          <span className="caps">bars</span>
          <input name="bars" type="number" min={1} className="input input-sm w-16" defaultValue={8} />
        </label>
        <button className="btn btn-sm btn-primary">Add</button>
      </form>
    </Popover>
  );
}
