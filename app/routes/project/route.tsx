import { useEffect } from 'react';
import { data } from 'react-router';
import { idParam } from '~server/http/input.server';
import { requirePerson } from '~server/http/session.server';
import { listExports } from '~server/services/exports.server';
import { openProject } from '~server/services/projects.server';
import { useProject } from '~/ui/project-store';
import { rememberProject } from '~/ui/room-link';
import type { Route } from './+types/route';
import { ExportPanel } from './export-panel';
import { ProjectHead } from './project-head';
import { Timeline } from './timeline';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `${loaderData?.name ?? 'Project'} · Garnetfinch` }];

/** The page of a project. Reading it changes nothing; its address brings the project into the room. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const person = await requirePerson(request),
    id = idParam(params.projectId),
    open = await openProject(id, person.id);
  if (!open) throw data('There is no such project, or it is archived.', { status: 404 });
  return { id, name: open.project.name, exports: await listExports(id) };
}

export default function ProjectPage({ loaderData }: Route.ComponentProps) {
  const project = useProject((state) => state.project),
    id = useProject((state) => state.id);
  // The address brings it into this tab's room; the next new tab begins with it too.
  useEffect(() => rememberProject(loaderData.id), [loaderData.id]);
  if (!project || id !== loaderData.id) return <p className="p-6">Opening …</p>;
  return (
    <div className="flex h-full min-w-[900px] flex-col">
      <ProjectHead project={project} />
      <Timeline key={loaderData.id} projectId={loaderData.id} project={project} />
      <ExportPanel projectId={loaderData.id} initial={loaderData.exports} />
    </div>
  );
}
