import { useState } from 'react';
import { formatDistanceToNowStrict } from 'date-fns';
import { useNavigate } from 'react-router';
import { RoomLink, useEnterProject } from '~/ui/room-link';
import { api } from '~/ui/api';
import { ask } from '~/ui/ask';
import { toast } from '~/ui/toast';
import { useLive } from '~/ui/live';
import { useRenewal } from '~/ui/use-renewal';
import { useSend } from '~/ui/use-send';
import { allKeys, keyCode, keyName } from '~core/theory/key';
import { beatsPerBar, meters } from '~core/units/time';
import { tempoText } from '~/ui/format';
import { useProject } from '~/ui/project-store';
import { requirePerson } from '~server/http/session.server';
import { listProjects } from '~server/services/projects.server';
import type { Route } from './+types/route';

export const meta: Route.MetaFunction = () => [{ title: 'Projects · Garnetfinch' }];

export async function loader({ request }: Route.LoaderArgs) {
  await requirePerson(request);
  return { projects: await listProjects(), archived: await listProjects(true) };
}

export default function Projects({ loaderData }: Route.ComponentProps) {
  const inRoom = useProject((state) => state.id),
    enter = useEnterProject(),
    send = useSend(),
    renew = useRenewal(),
    act = (intent: 'archive' | 'restore' | 'duplicate', projectId: number) => send(api.projects, 'post', { intent, projectId });
  useLive('projects', () => void renew());
  const archive = async (id: number, name: string) => {
    if (await act('archive', id)) toast(`Archived “${name}”.`, { action: { label: 'Undo', onClick: () => void act('restore', id) } });
  };
  return (
    <div className="mx-auto grid max-w-5xl gap-8 p-6 lg:grid-cols-[1fr_20rem]">
      <section aria-labelledby="projects-title">
        <h1 id="projects-title">Projects</h1>
        {loaderData.projects.length === 0 && (
          <p className="quiet mt-3">None yet. Start one on the right, or place a loop you love: it brings its tempo and key.</p>
        )}
        <ul className="mt-3 flex flex-col divide-y divide-base-300 border-y border-base-300">
          {loaderData.projects.map((project) => (
            <li key={project.id} className="flex items-center gap-4 py-2.5">
              <div className="min-w-0 flex-1">
                <RoomLink to={`/projects/${project.id}`} className="text-base font-semibold hover:underline">
                  {project.name}
                </RoomLink>
                <p className="quiet">
                  {tempoText(project.tempoBpm)} · {project.key ? keyName(project.key) : 'no key'} · {project.meter} · {project.tracks}{' '}
                  tracks, {Math.ceil(project.endBeat / beatsPerBar(project.meter))} bars · by {project.createdBy} · changed{' '}
                  <span suppressHydrationWarning>{formatDistanceToNowStrict(new Date(project.changedAt))}</span> ago
                </p>
              </div>
              {project.id === inRoom ? (
                <span className="badge badge-primary badge-outline">in the room</span>
              ) : (
                <button className="btn btn-sm" onClick={() => enter(project.id)}>
                  Bring into the room
                </button>
              )}
              <button
                className="btn btn-ghost btn-sm"
                aria-label={`Duplicate ${project.name}`}
                onClick={() => void act('duplicate', project.id)}
              >
                Duplicate
              </button>
              <button className="btn btn-ghost btn-sm" onClick={() => void archive(project.id, project.name)}>
                Archive
              </button>
            </li>
          ))}
        </ul>
        {loaderData.archived.length > 0 && (
          <details className="mt-4">
            <summary className="cursor-pointer">Archived ({loaderData.archived.length})</summary>
            <ul className="mt-2">
              {loaderData.archived.map((project) => (
                <li key={project.id} className="flex items-center gap-3 py-1">
                  <span className="flex-1">{project.name}</span>
                  <button className="btn btn-sm" onClick={() => void act('restore', project.id)}>
                    Bring back
                  </button>
                </li>
              ))}
            </ul>
          </details>
        )}
      </section>
      <NewProject />
    </div>
  );
}

function NewProject() {
  const navigate = useNavigate(),
    [errors, setErrors] = useState<Readonly<Record<string, string>>>({}),
    [isAsking, setAsking] = useState(false),
    [key, setKey] = useState('none');
  const start = async (form: FormData) => {
    setAsking(true);
    const made = await ask<{ id: number }>(api.projects, { method: 'post', body: form });
    setAsking(false);
    setErrors(made.ok ? {} : made.errors);
    if (made.ok) void navigate(`/projects/${made.answer.id}`);
    else if (Object.keys(made.errors).length === 0) toast.error(made.wrong);
  };
  return (
    <form
      className="panel flex flex-col gap-3 self-start p-4"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        void start(new FormData(event.currentTarget));
      }}
    >
      <h2>Start a project</h2>
      <input type="hidden" name="intent" value="create" />
      <label className="flex flex-col gap-1">
        <span className="caps">Name</span>
        <input name="name" className="input w-full" aria-invalid={Boolean(errors.name)} />
        {errors.name && (
          <span className="text-error" role="alert">
            {errors.name}
          </span>
        )}
      </label>
      <div className="flex gap-3">
        <label className="flex flex-1 flex-col gap-1">
          <span className="caps">Tempo</span>
          <input name="tempo" className="input w-full" inputMode="decimal" defaultValue="120" aria-invalid={Boolean(errors.tempo)} />
        </label>
        <label className="flex flex-1 flex-col gap-1">
          <span className="caps">Meter</span>
          <select name="meter" className="select w-full">
            {meters.map((meter) => (
              <option key={meter}>{meter}</option>
            ))}
          </select>
        </label>
      </div>
      {errors.tempo && (
        <span className="text-error" role="alert">
          {errors.tempo}
        </span>
      )}
      <label className="flex flex-col gap-1">
        <span className="caps">Key</span>
        <select name="key" className="select w-full" value={key} onChange={(event) => setKey(event.target.value)}>
          <option value="none">none yet: nothing is shifted</option>
          {allKeys.map((each) => (
            <option key={keyCode(each)} value={keyCode(each)}>
              {keyName(each)}
            </option>
          ))}
        </select>
      </label>
      <button className="btn btn-primary mt-1" disabled={isAsking}>
        Start
      </button>
    </form>
  );
}
