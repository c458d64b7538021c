import { useState } from 'react';
import { formatDistanceToNowStrict } from 'date-fns';
import { useFetcher } from 'react-router';
import { RoomLink, useEnterProject } from '~/ui/room-link';
import { toast } from '~/ui/toast';
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
    act = useFetcher();
  const archive = (id: number, name: string) => {
    void act.submit({ intent: 'archive', projectId: id }, { method: 'post', action: '/api/v1/projects' });
    toast(`Archived “${name}”.`, {
      action: {
        label: 'Undo',
        onClick: () => void act.submit({ intent: 'restore', projectId: id }, { method: 'post', action: '/api/v1/projects' }),
      },
    });
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
                onClick={() =>
                  void act.submit({ intent: 'duplicate', projectId: project.id }, { method: 'post', action: '/api/v1/projects' })
                }
              >
                Duplicate
              </button>
              <button className="btn btn-ghost btn-sm" onClick={() => archive(project.id, project.name)}>
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
                  <button
                    className="btn btn-sm"
                    onClick={() =>
                      void act.submit({ intent: 'restore', projectId: project.id }, { method: 'post', action: '/api/v1/projects' })
                    }
                  >
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
  const fetcher = useFetcher<{ errors?: Record<string, string> }>(),
    errors = fetcher.data?.errors ?? {},
    [key, setKey] = useState('none');
  return (
    <fetcher.Form method="post" action="/api/v1/projects" className="panel flex flex-col gap-3 self-start p-4" noValidate>
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
      <button className="btn btn-primary mt-1" disabled={fetcher.state !== 'idle'}>
        Start
      </button>
    </fetcher.Form>
  );
}
