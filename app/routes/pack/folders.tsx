import type { FolderNode } from '~core/library/folder-tree';
import { RoomLink } from '~/ui/room-link';

/** The vendor's own folders; each leads to what lies in it. */
export function Folders({ packId, node, isTop = false }: { packId: number; node: FolderNode; isTop?: boolean }) {
  const address = (path: string) => `/?${new URLSearchParams([['pack', String(packId)], ...(path ? [['folder', path]] : [])])}`;
  return (
    <ul className={isTop ? '' : 'ml-4 border-l border-base-300 pl-2'}>
      {node.folders.map((folder) => (
        <li key={folder.path}>
          <div className="flex items-baseline gap-2">
            <RoomLink to={address(folder.path)} className="link min-w-0 truncate" title={folder.path}>
              {folder.name}
            </RoomLink>
            <span className="quiet tabular-nums">{folder.count}</span>
          </div>
          {folder.folders.length > 0 && <Folders packId={packId} node={folder} />}
        </li>
      ))}
    </ul>
  );
}
