import { useState } from 'react';
import { CircleHelp, LogOut, Moon, Sun } from 'lucide-react';
import { api } from '~/ui/api';
import { askingInOrder } from '~/ui/ask';
import { useLive } from '~/ui/live';
import { RoomNavLink, useEnterProject } from '~/ui/room-link';
import { currentTheme, setTheme } from '~/ui/theme';
import { useProject } from '~/ui/project-store';
import type { ProjectLine } from '~server/services/projects.server';
import type { SignedIn } from '~server/services/sessions.server';

const linkClass = ({ isActive }: { isActive: boolean }) =>
  `px-2.5 py-1 rounded-sm font-medium ${isActive ? 'bg-base-300' : 'hover:bg-base-200'}`;

/** The projects as they are now: the page need not be loaded anew for one that somebody begins, renames or archives. */
function useProjectsNow(loaded: readonly ProjectLine[]): readonly ProjectLine[] {
  const [inOrder] = useState(askingInOrder),
    [told, setTold] = useState<{ readonly behind: readonly ProjectLine[]; readonly projects: readonly ProjectLine[] } | null>(null);
  useLive('projects', () => {
    void inOrder<{ projects: ProjectLine[] }>(api.projects).then((answer) => answer && setTold({ behind: loaded, ...answer }));
  });
  return told?.behind === loaded ? told.projects : loaded;
}

/** Pages on the left, the project in the room, person and theme on the right. */
export function TopBar({ person, projects, onHelp }: { person: SignedIn; projects: readonly ProjectLine[]; onHelp: () => void }) {
  const enter = useEnterProject(),
    projectId = useProject((state) => state.id),
    named = useProjectsNow(projects);
  return (
    <header className="flex h-10 shrink-0 items-center gap-1 border-b border-base-300 px-3">
      <img src="/mark.svg" alt="" className="mr-2 size-5" />
      <span className="mr-3 font-semibold max-sm:hidden">Garnetfinch</span>
      <nav aria-label="Pages" className="flex gap-0.5">
        <RoomNavLink to="/" end className={linkClass}>
          Library
        </RoomNavLink>
        <RoomNavLink to="/collections" className={linkClass}>
          Collections
        </RoomNavLink>
        <RoomNavLink to="/packs" className={linkClass}>
          Packs
        </RoomNavLink>
        <RoomNavLink to="/exchange" className={linkClass}>
          Exchange
        </RoomNavLink>
        <RoomNavLink to="/projects" className={linkClass}>
          Projects
        </RoomNavLink>
        <RoomNavLink to="/workbench" className={linkClass}>
          Workbench
        </RoomNavLink>
        <RoomNavLink to="/people" className={linkClass}>
          People
        </RoomNavLink>
      </nav>
      <label className="ml-auto flex items-center gap-2">
        <span className="caps max-xl:hidden">In the room</span>
        <select
          className="select select-sm w-56 max-xl:w-44 max-sm:w-32"
          aria-label="Project in the room"
          value={projectId ?? ''}
          onChange={(event) => enter(event.target.value === '' ? null : Number(event.target.value))}
        >
          <option value="">No project: hear alone</option>
          {named.map((project) => (
            <option key={project.id} value={project.id}>
              {project.name}
            </option>
          ))}
        </select>
      </label>
      <button className="btn btn-ghost btn-sm btn-square" aria-label="Keys" title="Keys (?)" onClick={onHelp}>
        <CircleHelp className="size-4" />
      </button>
      <button
        className="btn btn-ghost btn-sm btn-square"
        aria-label="Switch between light and dark"
        title="Light or dark"
        onClick={() => setTheme(currentTheme() === 'dusk' ? 'daybreak' : 'dusk')}
      >
        <Sun className="hidden size-4 [[data-theme=dusk]_&]:block" />
        <Moon className="size-4 [[data-theme=dusk]_&]:hidden" />
      </button>
      <span className="max-md:hidden">{person.name}</span>
      <form method="post" action="/sign-out">
        <button className="btn btn-ghost btn-sm btn-square" aria-label="Sign out" title="Sign out">
          <LogOut className="size-4" />
        </button>
      </form>
    </header>
  );
}
