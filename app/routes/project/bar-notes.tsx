import { useState } from 'react';
import { formatDistanceToNowStrict } from 'date-fns';
import type { Project } from '~core/arrangement/tree';
import { beatsPerBar } from '~core/units/time';
import type { BarNote } from '~contracts/project-room';
import { useEngine } from '~/audio/hooks';
import { api } from '~/ui/api';
import { askOrTell, withForm } from '~/ui/ask';
import { Popover } from '~/ui/popover';
import { toast } from '~/ui/toast';

/** What is said to the bars: read, answered, ticked off; a click on a bar puts the playhead there. */
export function BarNotes({ project, projectId, notes }: { project: Project; projectId: number; notes: readonly BarNote[] }) {
  const open = notes.filter(({ answersId, doneAt }) => answersId === null && doneAt === null),
    done = notes.filter(({ answersId, doneAt }) => answersId === null && doneAt !== null),
    [showsDone, setShowsDone] = useState(false);
  const line = (note: BarNote) => (
    <Note
      key={note.id}
      note={note}
      answers={notes.filter(({ answersId }) => answersId === note.id)}
      project={project}
      projectId={projectId}
    />
  );
  return (
    <Popover label={open.length > 0 ? `Notes: ${open.length}` : 'Notes'}>
      <h2>Notes to bars</h2>
      {notes.length === 0 && <p className="quiet mt-1">Nothing has been said yet. A note stands at the bar under the playhead.</p>}
      <ul className="mt-2 grid max-h-80 gap-2 overflow-y-auto">{open.map(line)}</ul>
      {done.length > 0 && (
        <>
          <button className="btn btn-ghost btn-xs mt-2" aria-expanded={showsDone} onClick={() => setShowsDone(!showsDone)}>
            {showsDone ? '▾' : '▸'} ticked off: {done.length}
          </button>
          {showsDone && <ul className="mt-1 grid max-h-60 gap-2 overflow-y-auto">{done.map(line)}</ul>}
        </>
      )}
      <Say project={project} projectId={projectId} answersId={null} />
    </Popover>
  );
}

function Note({ note, answers, project, projectId }: { note: BarNote; answers: readonly BarNote[]; project: Project; projectId: number }) {
  const engine = useEngine(),
    [isAnswering, setAnswering] = useState(false),
    bar = Math.floor(note.beat / beatsPerBar(project.meter)) + 1;
  return (
    <li className="rounded-sm border border-base-300 p-2">
      <div className="flex items-baseline gap-2">
        <button className="btn btn-xs" onClick={() => engine.seek(note.beat)} title="Put the playhead there">
          bar {bar}
        </button>
        <span className={`min-w-0 flex-1 ${note.doneAt ? 'line-through' : ''}`}>{note.note}</span>
      </div>
      <Said note={note} projectId={projectId} />
      {answers.map((answer) => (
        <div key={answer.id} className="ml-3 mt-1 border-l-2 border-base-300 pl-2">
          {answer.note}
          <Said note={answer} projectId={projectId} />
        </div>
      ))}
      <div className="mt-1 flex gap-1">
        <button
          className="btn btn-xs"
          onClick={() => void askOrTell(api.projectNote(projectId, note.id), withForm('put', { done: note.doneAt ? 0 : 1 }))}
        >
          {note.doneAt ? 'Take it up again' : 'Tick it off'}
        </button>
        <button className="btn btn-ghost btn-xs" aria-expanded={isAnswering} onClick={() => setAnswering(!isAnswering)}>
          Answer
        </button>
      </div>
      {isAnswering && <Say project={project} projectId={projectId} answersId={note.id} onSaid={() => setAnswering(false)} />}
    </li>
  );
}

/** Who said it, when, who ticked it off; one's own can be taken back. */
function Said({ note, projectId }: { note: BarNote; projectId: number }) {
  const address = api.projectNote(projectId, note.id),
    takeBack = async () => {
      if (await askOrTell(address, { method: 'delete' }))
        toast('Taken back.', { action: { label: 'Undo', onClick: () => void askOrTell(address, withForm('put', { restore: 1 })) } });
    };
  return (
    <p className="quiet">
      {note.person}, {formatDistanceToNowStrict(new Date(note.at))} ago{note.doneBy && ` · ticked off by ${note.doneBy}`}
      {note.isOwn && (
        <>
          {' · '}
          <button className="link" onClick={() => void takeBack()}>
            take it back
          </button>
        </>
      )}
    </p>
  );
}

function Say({
  project,
  projectId,
  answersId,
  onSaid,
}: {
  project: Project;
  projectId: number;
  answersId: number | null;
  onSaid?: () => void;
}) {
  const engine = useEngine(),
    barBeats = beatsPerBar(project.meter),
    [bar] = useState(() => Math.floor(engine.positionBeat() / barBeats) + 1);
  return (
    <form
      className="mt-2 flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        const node = event.currentTarget,
          form = new FormData(node),
          beat = (Math.max(1, Number(form.get('bar') ?? 1)) - 1) * barBeats;
        const fields = { note: String(form.get('note')), beat, ...(answersId === null ? {} : { answersId }) };
        void askOrTell(api.projectNotes(projectId), withForm('post', fields)).then((said) => {
          if (!said) return;
          node.reset();
          onSaid?.();
        });
      }}
    >
      <input
        name="note"
        className="input input-sm min-w-0 flex-1"
        required
        maxLength={500}
        placeholder={answersId === null ? 'bass too busy here' : 'answer'}
        aria-label={answersId === null ? 'Note' : 'Answer'}
      />
      {answersId === null && (
        <label className="flex flex-col">
          <span className="caps">bar</span>
          <input name="bar" type="number" min={1} className="input input-sm w-16" defaultValue={bar} />
        </label>
      )}
      <button className="btn btn-sm btn-primary">Say</button>
    </form>
  );
}
