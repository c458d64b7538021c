import { useCallback, useEffect, useRef } from 'react';
import { data, useFetcher } from 'react-router';
import { idParam } from '~server/http/input.server';
import { requirePerson } from '~server/http/session.server';
import { listExports } from '~server/services/exports.server';
import { openProject } from '~server/services/projects.server';
import { useProject } from '~/ui/project-store';
import type { Route } from './+types/route';
import { ExportPanel } from './export-panel';
import { ProjectHead } from './project-head';
import { Timeline } from './timeline';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `${loaderData?.name ?? 'Project'} · Garnetfinch` }];

/** The page of a project. Reading it changes nothing; the page itself brings its project into the room. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const person = await requirePerson(request),
    id = idParam(params.projectId),
    open = await openProject(id, person.id);
  if (!open) throw data('There is no such project, or it is archived.', { status: 404 });
  return { id, name: open.project.name, exports: await listExports(id), isInRoom: person.projectId === id };
}

export default function ProjectPage({ loaderData }: Route.ComponentProps) {
  const project = useProject((state) => state.project),
    id = useProject((state) => state.id),
    fetcher = useFetcher(),
    { submit } = fetcher,
    enter = useCallback(
      () => void submit({ intent: 'enter', projectId: loaderData.id }, { method: 'post', action: '/api/v1/projects' }),
      [submit, loaderData.id],
    ),
    entered = useRef<number | null>(null);
  // Once for each opening: what another window brings into the room later stays there until this one asks.
  useEffect(() => {
    if (entered.current === loaderData.id) return;
    entered.current = loaderData.id;
    if (!loaderData.isInRoom) enter();
  }, [enter, loaderData]);
  const isOpening = fetcher.state !== 'idle' || (fetcher.data === undefined && !loaderData.isInRoom);
  if ((!project || id !== loaderData.id) && isOpening) return <p className="p-6">Opening …</p>;
  if (!project || id !== loaderData.id)
    return (
      <div className="p-6">
        <p>Another project is in the room now.</p>
        <button className="btn btn-sm mt-2" onClick={enter}>
          Bring “{loaderData.name}” into the room
        </button>
      </div>
    );
  return (
    <div className="flex h-full min-w-[900px] flex-col">
      <ProjectHead project={project} />
      <Timeline project={project} />
      <ExportPanel projectId={loaderData.id} initial={loaderData.exports} />
    </div>
  );
}
