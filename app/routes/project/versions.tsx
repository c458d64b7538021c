import { useEffect, useState } from 'react';
import { formatDistanceToNowStrict } from 'date-fns';
import { clipsApart, differencesInWords, editBetween } from '~core/arrangement/compare';
import { loopIdsIn, projectEndBeat, type Project } from '~core/arrangement/tree';
import type { VersionLine } from '~contracts/project-room';
import { api } from '~/ui/api';
import { ask, askOrTell, withForm } from '~/ui/ask';
import { fetchLoops } from '~/ui/changed-loops';
import { Popover } from '~/ui/popover';
import { useProject, useProjectStore } from '~/ui/project-store';
import { toast } from '~/ui/toast';
import { ProjectStrip } from './project-strip';
import { useAsked } from './use-asked';

/** Named states of the project: kept, compared in words and on a strip, heard in its place, brought back as one step. */
export function Versions({ project, projectId }: { project: Project; projectId: number }) {
  const found = useAsked<{ versions: readonly VersionLine[] }>(projectId, api.projectVersions(projectId)),
    versions = found?.versions ?? [],
    [openId, setOpenId] = useState<number | null>(null);
  return (
    <Popover label={versions.length > 0 ? `Versions: ${versions.length}` : 'Versions'}>
      <h2>Versions</h2>
      <form
        className="mt-2 flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          const node = event.currentTarget;
          void askOrTell(api.projectVersions(projectId), withForm('post', { name: String(new FormData(node).get('name')) })).then(
            (kept) => kept && node.reset(),
          );
        }}
      >
        <input
          name="name"
          className="input input-sm min-w-0 flex-1"
          required
          maxLength={120}
          placeholder="before the break"
          aria-label="Name of the version"
        />
        <button className="btn btn-sm btn-primary">Keep as it is now</button>
      </form>
      {versions.length === 0 && (
        <p className="quiet mt-2">None yet. A version is the piece as it is at a moment: to be compared, heard, and brought back.</p>
      )}
      <ul className="mt-3 grid max-h-[28rem] gap-1 overflow-y-auto">
        {versions.map((version) => (
          <li key={version.id} className="rounded-sm border border-base-300 p-2">
            <button
              className="flex w-full items-baseline gap-2 text-left"
              aria-expanded={openId === version.id}
              onClick={() => setOpenId(openId === version.id ? null : version.id)}
            >
              <span aria-hidden="true">{openId === version.id ? '▾' : '▸'}</span>
              <strong className="min-w-0 flex-1 truncate">{version.name}</strong>
              <span className="quiet">
                {version.person}, {formatDistanceToNowStrict(new Date(version.at))} ago
              </span>
            </button>
            {openId === version.id && <Version key={version.id} line={version} project={project} projectId={projectId} />}
          </li>
        ))}
      </ul>
    </Popover>
  );
}

function Version({ line, project, projectId }: { line: VersionLine; project: Project; projectId: number }) {
  const store = useProjectStore(),
    loops = useProject((state) => state.loops),
    [then, setThen] = useState<Project | null>(null),
    [wrong, setWrong] = useState<string | null>(null),
    isHeard = useProject((state) => state.preview !== null && state.preview === then);
  useEffect(() => {
    let gone = false;
    void ask<{ project: Project }>(api.projectVersion(projectId, line.id)).then((found) => {
      if (gone) return;
      if (found.ok) setThen(found.answer.project);
      else setWrong(found.wrong);
    });
    return () => {
      gone = true;
      store.hearInstead(null);
    };
  }, [projectId, line.id, store]);
  if (wrong)
    return (
      <p className="text-error mt-2" role="alert">
        {wrong}
      </p>
    );
  if (!then) return <p className="quiet mt-2">Reading …</p>;
  const words = differencesInWords(then, project),
    apart = clipsApart(then, project),
    endBeat = Math.max(projectEndBeat(project), projectEndBeat(then));
  const hear = async () => {
    if (isHeard) return store.hearInstead(null);
    const unknown = loopIdsIn(then).filter((id) => !loops.has(id));
    store.hearInstead(then, unknown.length > 0 ? await fetchLoops(unknown).catch(() => []) : []);
  };
  const restore = async () => {
    const edit = editBetween(project, then);
    if (!edit) return void toast('The piece is as it was then.');
    const unknown = loopIdsIn(then).filter((id) => !loops.has(id)),
      wrong = store.edit(edit, unknown.length > 0 ? await fetchLoops(unknown).catch(() => []) : []);
    if (wrong) return void toast.error(wrong);
    store.hearInstead(null);
    toast(`As it was at “${line.name}”.`, { action: { label: 'Undo', onClick: store.undoOfLast() } });
  };
  const forget = async () => {
    const address = api.projectVersion(projectId, line.id);
    if (await askOrTell(address, { method: 'delete' }))
      toast(`Forgot “${line.name}”.`, { action: { label: 'Undo', onClick: () => void askOrTell(address, withForm('put')) } });
  };
  return (
    <div className="mt-2 grid gap-2">
      <ProjectStrip
        project={then}
        apart={apart}
        endBeat={endBeat}
        label={`The piece at “${line.name}”; what is otherwise now stands out`}
      />
      <ProjectStrip project={project} apart={apart} endBeat={endBeat} label="The piece now; what was otherwise then stands out" />
      <p className="caps">Since then</p>
      {words.length === 0 ? (
        <p className="quiet">Nothing differs.</p>
      ) : (
        <ul className="max-h-40 list-disc overflow-y-auto pl-5">
          {words.slice(0, 60).map((each) => (
            <li key={each}>{each}</li>
          ))}
          {words.length > 60 && <li>and {words.length - 60} more</li>}
        </ul>
      )}
      <div className="flex gap-1">
        <button className={`btn btn-xs ${isHeard ? 'btn-accent' : ''}`} aria-pressed={isHeard} onClick={() => void hear()}>
          {isHeard ? 'Hear it as it is now' : 'Hear it as it was'}
        </button>
        <button className="btn btn-xs" onClick={() => void restore()}>
          Bring it back
        </button>
        <button className="btn btn-ghost btn-xs ml-auto" onClick={() => void forget()}>
          Forget it
        </button>
      </div>
    </div>
  );
}
