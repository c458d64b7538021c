import { useCallback, useEffect, useRef, useState } from 'react';
import { formatDistanceToNowStrict } from 'date-fns';
import { FolderInput } from 'lucide-react';
import { api } from '~/ui/api';
import { ask, askingInOrder, askOrTell, withForm, type Fields } from '~/ui/ask';
import { useLive } from '~/ui/live';
import { RoomLink } from '~/ui/room-link';
import { toast } from '~/ui/toast';
import type { FolderLine } from '~server/services/folders/folders.server';
import type { VendorHabits } from '~server/services/imports/progress.server';
import { DraftFields, Line } from './draft-fields';

/** Folders of the server's own machine, from which loops come in without being sent. */
export function Folders({
  folders: initial,
  habits,
  isKeeper,
}: {
  folders: readonly FolderLine[];
  habits: readonly VendorHabits[];
  isKeeper: boolean;
}) {
  const [fresh, setFresh] = useState<readonly FolderLine[] | null>(null),
    [choices, setChoices] = useState<readonly string[] | null>(null),
    [askFolders] = useState(askingInOrder),
    folders = fresh ?? initial;
  const refresh = useCallback(async () => {
    const answer = await askFolders<{ folders: FolderLine[]; choices: string[] }>(api.folders);
    if (answer) setFresh(answer.folders);
    return answer;
  }, [askFolders]);
  useLive('import', () => void refresh());
  useLive('missed', () => void refresh());
  const change = async (id: number, method: 'put' | 'delete', fields: Fields = {}) => {
    const answer = await askOrTell(api.folder(id), withForm(method, fields));
    await refresh();
    return answer !== null;
  };
  if (folders.length === 0 && !isKeeper) return null;
  return (
    <section aria-labelledby="folders-title" className="mt-5">
      <div className="flex items-center gap-2">
        <h2 id="folders-title" className="flex-1">
          Folders on the server
        </h2>
        {isKeeper && (
          <button className="btn btn-sm" onClick={() => void refresh().then((answer) => answer && setChoices(answer.choices))}>
            <FolderInput className="size-4" /> Allow one …
          </button>
        )}
      </div>
      {folders.length === 0 ? (
        <p className="quiet mt-1">None. What lies on the server’s own disk comes in without being sent, and can be watched.</p>
      ) : (
        <ul className="mt-1 divide-y divide-base-300 border-y border-base-300">
          {folders.map((folder) => (
            <li key={folder.id} className="py-2" data-folder={folder.path}>
              <div className="flex items-baseline gap-2">
                <span className="min-w-0 flex-1 truncate font-medium" title={folder.path}>
                  {folder.path.split('/').at(-1)}
                </span>
                {isKeeper && (
                  <>
                    <button className="link" onClick={() => void change(folder.id, 'put', { look: 1 })}>
                      look now
                    </button>
                    <button
                      className="link"
                      aria-label={`Forget the folder ${folder.path}`}
                      onClick={() =>
                        void change(folder.id, 'delete').then((isDone) => isDone && toast('Forgotten. What it brought in stays.'))
                      }
                    >
                      forget
                    </button>
                  </>
                )}
                {folder.packId && (
                  <RoomLink className="link" to={`/packs/${folder.packId}`}>
                    show
                  </RoomLink>
                )}
              </div>
              <p className="quiet" suppressHydrationWarning>
                {folder.files} {folder.files === 1 ? 'file' : 'files'} in ·{' '}
                {folder.lookedAt ? `looked into ${formatDistanceToNowStrict(new Date(folder.lookedAt))} ago` : 'being looked into'}
              </p>
              {isKeeper ? (
                <label className="flex items-center gap-2">
                  <input
                    type="checkbox"
                    className="checkbox checkbox-sm"
                    checked={folder.isWatched}
                    onChange={() => void change(folder.id, 'put', { isWatched: folder.isWatched ? 0 : 1 })}
                  />
                  watch it: what is new comes in by itself
                </label>
              ) : (
                folder.isWatched && <p className="quiet">watched</p>
              )}
              {folder.message && <p className="text-error">{folder.message}</p>}
            </li>
          ))}
        </ul>
      )}
      {choices && (
        <AllowDialog
          choices={choices.filter((path) => !folders.some((folder) => folder.path === path))}
          habits={habits}
          onClose={() => setChoices(null)}
          onDone={() => void refresh()}
        />
      )}
    </section>
  );
}

function AllowDialog({
  choices,
  habits,
  onClose,
  onDone,
}: {
  choices: readonly string[];
  habits: readonly VendorHabits[];
  onClose: () => void;
  onDone: () => void;
}) {
  const ref = useRef<HTMLDialogElement>(null),
    [path, setPath] = useState(choices.at(-1) ?? ''),
    [wrong, setWrong] = useState<string | null>(null);
  useEffect(() => ref.current?.showModal(), []);
  const send = async (form: FormData) => {
    const allowed = await ask(api.folders, { method: 'post', body: form });
    if (!allowed.ok) return setWrong(allowed.wrong);
    onDone();
    onClose();
  };
  return (
    <dialog ref={ref} className="modal" onClose={onClose} aria-label="Allow a folder on the server">
      <form
        className="modal-box flex max-w-lg flex-col gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void send(new FormData(event.currentTarget));
        }}
      >
        <h2>Let loops come in from a folder on the server</h2>
        {choices.length === 0 ? (
          <p className="quiet">There is no further folder that this server may read.</p>
        ) : (
          <>
            <Line label="Folder">
              <select name="path" className="select select-sm flex-1" value={path} onChange={(event) => setPath(event.target.value)}>
                {choices.map((choice) => (
                  <option key={choice}>{choice}</option>
                ))}
              </select>
            </Line>
            <DraftFields key={path} name={(path.split('/').at(-1) ?? '').replace(/[_-]+/g, ' ')} habits={habits} />
            <label className="flex items-center gap-2">
              <input type="checkbox" name="isWatched" value="true" className="checkbox checkbox-sm" />
              watch it: what is new comes in by itself
            </label>
          </>
        )}
        {wrong && (
          <p className="text-error" role="alert">
            {wrong}
          </p>
        )}
        <div className="modal-action">
          <button type="button" className="btn" onClick={() => ref.current?.close()}>
            Cancel
          </button>
          <button className="btn btn-primary" disabled={choices.length === 0}>
            Allow it
          </button>
        </div>
      </form>
    </dialog>
  );
}
