/*
 * Which project is in the room stands in the address of each page, so that two tabs have two rooms, and going back or sharing an address
 * keeps it. The page of a project says so by its path.
 */
export const roomParameter = 'in';
/** A room without a project, where loops are heard alone. */
const emptyRoom = 'none';

const projectPath = /^\/projects\/(\d{1,9})(?:\.data)?\/?$/;

/** The project that an address brings into the room; null for none, undefined where it does not say. */
export function roomOf({ pathname, searchParams }: URL): number | null | undefined {
  const [, ofPath] = projectPath.exec(pathname) ?? [];
  if (ofPath) return Number(ofPath);
  const said = searchParams.get(roomParameter);
  if (said === emptyRoom) return null;
  return said !== null && /^\d{1,9}$/.test(said) ? Number(said) : undefined;
}

/**
 * An address of ours, with the project in the room said in it.
 * @param to path, search or both
 * @example inRoom('/loops/3', 7) // => '/loops/3?in=7'
 * @example inRoom('?show=60', null) // => '?show=60&in=none'
 */
export function inRoom(to: string, projectId: number | null): string {
  const [path, search = ''] = to.split('?', 2);
  if (projectPath.test(path)) return to;
  const parameters = new URLSearchParams(search);
  parameters.set(roomParameter, projectId === null ? emptyRoom : String(projectId));
  return `${path}?${parameters}`;
}
