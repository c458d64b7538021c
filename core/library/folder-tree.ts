/** A folder of a vendor's, with what lies in it and below. */
export interface FolderNode {
  readonly name: string;
  /** From the top, with a slash at the end. */
  readonly path: string;
  /** Files in it and in all folders below. */
  readonly count: number;
  readonly folders: readonly FolderNode[];
}

/**
 * Folders as a tree. Folders on top that hold nothing but one other are one with it: every zip has such a one.
 * @param rows folders with a slash at the end and how many files lie in each itself; '' for the top
 */
export function folderTree(rows: readonly { readonly folder: string; readonly count: number }[]): FolderNode {
  let top = nodeAt('', '', rows);
  const own = (node: FolderNode): number => node.count - node.folders.reduce((sum, { count }) => sum + count, 0);
  while (top.folders.length === 1 && own(top) === 0) top = top.folders[0];
  return top;
}

function nodeAt(name: string, path: string, rows: readonly { readonly folder: string; readonly count: number }[]): FolderNode {
  const below = new Map<string, { folder: string; count: number }[]>();
  for (const row of rows) {
    const next = row.folder.slice(path.length).split('/')[0];
    if (row.folder.length > path.length) below.set(next, [...(below.get(next) ?? []), row]);
  }
  return {
    name,
    path,
    count: rows.reduce((sum, { count }) => sum + count, 0),
    folders: [...below]
      .map(([each, inside]) => nodeAt(each, `${path}${each}/`, inside))
      .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true })),
  };
}
