import { data, redirect, useFetcher } from 'react-router';
import { idParam } from '~server/http/input.server';
import { requirePerson, sessionToken } from '~server/http/session.server';
import { listExports } from '~server/services/exports.server';
import { setSessionProject } from '~server/services/sessions.server';
import { openProject } from '~server/services/projects.server';
import { useProject } from '~/ui/project-store';
import type { Route } from './+types/route';
import { ExportPanel } from './export-panel';
import { ProjectHead } from './project-head';
import { Timeline } from './timeline';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `${loaderData?.name ?? 'Project'} · Garnetfinch` }];

/** Opening a project's page brings it into the room. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const person = await requirePerson(request),
    id = idParam(params.projectId),
    open = await openProject(id, person.id);
  if (!open) throw data('There is no such project, or it is archived.', { status: 404 });
  if (person.projectId !== id) {
    await setSessionProject(await sessionToken(request), id);
    throw redirect(`/projects/${id}`);
  }
  return { id, name: open.project.name, exports: await listExports(id) };
}

export default function ProjectPage({ loaderData }: Route.ComponentProps) {
  const project = useProject((state) => state.project),
    id = useProject((state) => state.id),
    fetcher = useFetcher();
  if (!project || id !== loaderData.id)
    return (
      <div className="p-6">
        <p>Another project is in the room now.</p>
        <button
          className="btn btn-sm mt-2"
          onClick={() => void fetcher.submit({ intent: 'enter', projectId: loaderData.id }, { method: 'post', action: '/api/projects' })}
        >
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
