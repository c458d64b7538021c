import { useCallback } from 'react';
import { Link, NavLink, useLocation, useNavigate, type LinkProps, type NavLinkProps, type NavigateOptions } from 'react-router';
import { inRoom } from '~contracts/room-address';
import { api } from './api';
import { useProject } from './project-store';

/** A link that keeps the project of this tab in the room. */
export function RoomLink({ to, ...rest }: LinkProps & { to: string }) {
  return (
    <Link
      to={inRoom(
        to,
        useProject(({ id }) => id),
      )}
      {...rest}
    />
  );
}

export function RoomNavLink({ to, ...rest }: NavLinkProps & { to: string }) {
  return (
    <NavLink
      to={inRoom(
        to,
        useProject(({ id }) => id),
      )}
      {...rest}
    />
  );
}

/** Goes to a page of ours with the project of this tab in the room. */
export function useRoomNavigate(): (to: string, options?: NavigateOptions) => void {
  const navigate = useNavigate(),
    id = useProject((state) => state.id);
  return useCallback((to, options) => void navigate(inRoom(to, id), options), [navigate, id]);
}

/** Brings another project, or none, into the room of this tab; the person's next new tab will begin with it. */
export function useEnterProject(): (id: number | null) => void {
  const navigate = useNavigate(),
    { pathname, search } = useLocation();
  return useCallback(
    (id) => {
      rememberProject(id);
      const onProjectPage = inRoom(pathname, null) === pathname;
      if (onProjectPage) void navigate(id === null ? inRoom('/', null) : `/projects/${id}`);
      else void navigate(inRoom(pathname + search, id), { preventScrollReset: true });
    },
    [navigate, pathname, search],
  );
}

/** What an address that says nothing begins with. */
export function rememberProject(id: number | null): void {
  void fetch(api.projects, {
    method: 'post',
    keepalive: true,
    body: new URLSearchParams({ intent: 'enter', projectId: String(id ?? '') }),
  }).catch(() => {});
}
