import { useCallback, useEffect, useRef, useState } from 'react';
import { FolderOpen, PackageOpen } from 'lucide-react';
import { formatsByExtension } from '~core/formats/sniff';
import { RoomLink } from '~/ui/room-link';
import { useLive, useLiveOpen } from '~/ui/live';
import { toast } from '~/ui/toast';
import type { BatchProgress, FileLine } from '~server/services/imports/progress.server';
import { readChosen, readDropped, uploadAll, type Picked, type UploadProgress } from './upload';

type ActReply = { batchId?: number; errors?: Record<string, string>; count?: number };

async function act(fields: Record<string, string>): Promise<ActReply> {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields)) form.set(name, value);
  const response = await fetch('/api/v1/imports', { method: 'POST', body: form });
  if (!response.headers.get('Content-Type')?.includes('json')) throw new Error('The server did not answer as it should.');
  return (await response.json()) as ActReply;
}

const guessName = (picked: readonly Picked[]): string => {
  const [first] = picked;
  if (!first) return '';
  return (first.path.includes('/') ? first.path.split('/')[0] : first.path.replace(/\.[A-Za-z0-9]+$/, '')).replace(/[_-]+/g, ' ');
};
const megabytes = (bytes: number): string => `${(bytes / 2 ** 20).toFixed(bytes < 10 * 2 ** 20 ? 1 : 0)} MB`;

const endingsTaken = ['zip', ...Object.keys(formatsByExtension)].map((ending) => `.${ending}`).join(',');

/** Drop or choose; say what it is; watch it come in, file by file. */
export function ImportDesk({ batches: initial }: { batches: readonly BatchProgress[] }) {
  const [picked, setPicked] = useState<readonly Picked[]>([]),
    [over, setOver] = useState(false),
    [sending, setSending] = useState<UploadProgress | null>(null),
    [problem, setProblem] = useState<string | null>(null);
  const abort = useRef<AbortController | null>(null),
    folder = useRef<HTMLInputElement>(null),
    { batches, refresh } = useBatches(initial);
  useEffect(() => {
    folder.current?.setAttribute('webkitdirectory', '');
  }, []);
  const take = (next: readonly Picked[]) => {
    setPicked(next);
    setProblem(next.length === 0 ? 'There was no file in that.' : null);
  };
  const send = async (form: FormData) => {
    abort.current = new AbortController();
    setProblem(null);
    try {
      await uploadAll(
        act,
        Object.fromEntries([...form].map(([name, value]) => [name, String(value)])),
        picked,
        abort.current.signal,
        setSending,
      );
      setPicked([]);
      refresh();
    } catch (error) {
      setProblem(
        error instanceof DOMException ? 'Stopped. Nothing was imported.' : error instanceof Error ? error.message : 'The upload failed.',
      );
    } finally {
      setSending(null);
    }
  };
  return (
    <aside aria-labelledby="desk-title">
      <h2 id="desk-title" className="text-lg">
        Import desk
      </h2>
      <div
        className={`mt-2 rounded-md border-2 border-dashed p-4 text-center ${over ? 'border-primary bg-base-200' : 'border-base-300'}`}
        onDragOver={(event) => {
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(event) => {
          event.preventDefault();
          setOver(false);
          void readDropped(event.dataTransfer.items).then(take);
        }}
      >
        <p className="font-medium">Drop zips, sound or MIDI files, or a folder</p>
        <p className="quiet mt-0.5">WAV, AIFF, FLAC, Ogg Vorbis, MP3, MIDI</p>
        <div className="mt-2 flex justify-center gap-2">
          <label className="btn btn-sm focus-within:outline-2">
            <PackageOpen className="size-4" /> Choose files
            <input
              type="file"
              multiple
              className="sr-only"
              data-choose-files
              accept={endingsTaken}
              onChange={(event) => event.target.files && take(readChosen(event.target.files))}
            />
          </label>
          <label className="btn btn-sm focus-within:outline-2">
            <FolderOpen className="size-4" /> Choose a folder
            <input
              ref={folder}
              type="file"
              multiple
              className="sr-only"
              onChange={(event) => event.target.files && take(readChosen(event.target.files))}
            />
          </label>
        </div>
      </div>
      {picked.length > 0 && (
        <form
          className="panel mt-3 flex flex-col gap-2 p-3"
          onSubmit={(event) => {
            event.preventDefault();
            void send(new FormData(event.currentTarget));
          }}
        >
          <p>
            <strong>{picked.length}</strong> {picked.length === 1 ? 'file' : 'files'},{' '}
            {megabytes(picked.reduce((sum, each) => sum + each.file.size, 0))}
          </p>
          <label className="flex items-center gap-2">
            <span className="caps w-16">Pack</span>
            <input name="packName" className="input input-sm flex-1" required defaultValue={guessName(picked)} key={guessName(picked)} />
          </label>
          <label className="flex items-center gap-2">
            <span className="caps w-16">Vendor</span>
            <input name="vendor" className="input input-sm flex-1" />
          </label>
          <label className="flex items-center gap-2">
            <span className="caps w-16">Licence</span>
            <input name="licence" className="input input-sm flex-1" placeholder="as the vendor states it" />
          </label>
          {sending ? (
            <div>
              <progress
                className="progress progress-primary w-full"
                value={sending.sentBytes}
                max={Math.max(1, sending.totalBytes)}
                aria-label="Upload"
              />
              <p className="quiet flex justify-between gap-2">
                <span className="truncate">{sending.file}</span>
                <span className="shrink-0">
                  {megabytes(sending.sentBytes)} of {megabytes(sending.totalBytes)}
                </span>
              </p>
              <button type="button" className="btn btn-sm mt-1" onClick={() => abort.current?.abort()}>
                Stop
              </button>
            </div>
          ) : (
            <div className="flex justify-end gap-2">
              <button type="button" className="btn btn-sm btn-ghost" onClick={() => setPicked([])}>
                Leave it
              </button>
              <button className="btn btn-sm btn-primary">Import</button>
            </div>
          )}
        </form>
      )}
      {problem && (
        <p className="text-error mt-2" role="alert">
          {problem}
        </p>
      )}
      <h3 className="caps mt-4">Came in lately</h3>
      <ul className="mt-1 flex flex-col divide-y divide-base-300 border-y border-base-300">
        {batches.map((batch) => (
          <Batch key={batch.id} batch={batch} onChanged={refresh} />
        ))}
      </ul>
      {batches.length === 0 && <p className="quiet">Nothing yet.</p>}
    </aside>
  );
}

/** Batches as they change: the server says when, the page asks what. */
function useBatches(initial: readonly BatchProgress[]) {
  const [fresh, setFresh] = useState<readonly BatchProgress[] | null>(null),
    waiting = useRef<number | null>(null);
  const refresh = useCallback(() => {
    if (waiting.current !== null) return;
    waiting.current = window.setTimeout(() => {
      waiting.current = null;
      void fetch('/api/v1/imports').then(async (response) => {
        if (response.ok) setFresh(((await response.json()) as { batches: BatchProgress[] }).batches);
      });
    }, 150);
  }, []);
  useLive('import', refresh);
  useLive('library', refresh);
  // What was announced before the stream stood is made up for.
  useLiveOpen(refresh);
  return { batches: fresh ?? initial, refresh };
}

const stateWords: Readonly<Record<FileLine['state'], string>> = {
  queued: 'waits',
  working: 'being analysed',
  done: 'in the library',
  failed: 'could not be read',
  duplicate: 'there already',
  'left-aside': 'left aside',
};

function Batch({ batch, onChanged }: { batch: BatchProgress; onChanged: () => void }) {
  const [open, setOpen] = useState(false),
    busy = batch.state === 'queued' || batch.state === 'unpacking' || batch.state === 'analysing',
    settled = batch.total - batch.counts.queued - batch.counts.working;
  const takenBack = batch.loops > 0 && batch.archived === batch.loops;
  const run = (intent: string) => void act({ intent, batchId: String(batch.id) }).then(onChanged);
  return (
    <li className="py-2" data-batch={batch.id} data-state={batch.state}>
      <div className="flex items-baseline gap-2">
        <span className="min-w-0 flex-1 truncate font-medium">{batch.packName}</span>
        {busy ? (
          <button className="link" onClick={() => run('cancel')}>
            stop
          </button>
        ) : (
          batch.loops > 0 &&
          (takenBack ? (
            <button className="link" onClick={() => run('restore')}>
              bring back
            </button>
          ) : (
            <button
              className="link"
              onClick={() => {
                run('take-back');
                toast(`Took ${batch.loops} loops of “${batch.packName}” back.`, {
                  action: { label: 'Undo', onClick: () => run('restore') },
                });
              }}
            >
              take back
            </button>
          ))
        )}
        {batch.state === 'failed' && (
          <button className="link" onClick={() => run('retry')}>
            try again
          </button>
        )}
        {batch.packId && (
          <RoomLink className="link" to={`/?pack=${batch.packId}`}>
            show
          </RoomLink>
        )}
      </div>
      {busy && (
        <progress
          className="progress progress-primary w-full"
          value={settled}
          max={Math.max(1, batch.total)}
          aria-label={`Import of ${batch.packName}`}
        />
      )}
      <button className="quiet text-left" aria-expanded={open} onClick={() => setOpen(!open)}>
        {busy
          ? `${batch.state === 'unpacking' ? 'unpacking, ' : ''}${settled} of ${batch.total}`
          : batch.state === 'cancelled'
            ? 'stopped'
            : batch.state === 'failed'
              ? 'failed'
              : takenBack
                ? 'taken back'
                : 'done'}
        : {batch.loops} in{batch.counts.failed > 0 && <strong className="text-error">, {batch.counts.failed} could not be read</strong>}
        {batch.counts.duplicate > 0 && `, ${batch.counts.duplicate} there already`}
        {batch.counts['left-aside'] > 0 && `, ${batch.counts['left-aside']} left aside`} {open ? '▴' : '▾'}
      </button>
      {batch.message && <p className="text-error">{batch.message}</p>}
      {open && <Files batchId={batch.id} stamp={settled} total={batch.total} />}
    </li>
  );
}

function Files({ batchId, stamp, total }: { batchId: number; stamp: number; total: number }) {
  const [files, setFiles] = useState<readonly FileLine[] | null>(null),
    [more, setMore] = useState<readonly FileLine[]>([]);
  useEffect(() => {
    const stop = new AbortController();
    fetch(`/api/v1/imports?batch=${batchId}`, { signal: stop.signal }).then(
      async (response) => {
        if (!response.ok) return;
        setFiles(((await response.json()) as { files: FileLine[] }).files);
        setMore([]);
      },
      () => {},
    );
    return () => stop.abort();
  }, [batchId, stamp]);
  const showMore = async (from: number) => {
    const response = await fetch(`/api/v1/imports?batch=${batchId}&offset=${from}`);
    if (response.ok) {
      const found = ((await response.json()) as { files: FileLine[] }).files;
      setMore((before) => [...before, ...found]);
    }
  };
  if (!files) return <p className="quiet">…</p>;
  const shown = [...files, ...more];
  return (
    <ul className="mt-1 max-h-72 overflow-auto rounded-sm bg-base-200 p-2 text-[0.82rem]" tabIndex={0} aria-label="Files of this import">
      {shown.map((file) => (
        <li key={file.id} className="py-0.5">
          <span className="block truncate" title={file.path}>
            {file.loopId ? (
              <RoomLink className="link" to={`/loops/${file.loopId}`}>
                {file.path}
              </RoomLink>
            ) : (
              file.path
            )}
          </span>
          <span className={file.state === 'failed' ? 'text-error' : 'quiet'}>
            {stateWords[file.state]}
            {file.message && `: ${file.message}`}
          </span>
        </li>
      ))}
      {shown.length < total && (
        <li className="flex items-center gap-3 py-1">
          <span className="quiet">
            {shown.length} of {total} files.
          </span>
          <button className="link" onClick={() => void showMore(shown.length)}>
            Show more
          </button>
        </li>
      )}
    </ul>
  );
}
