import { useEffect, useState } from 'react';
import { RoomLink } from '~/ui/room-link';
import { toast } from '~/ui/toast';
import type { BatchProgress, FileLine } from '~server/services/imports/progress.server';
import { actOrTell } from './act';
import { leftInWords } from './transfers';
import { megabytes, soundInWords } from '~/ui/size-words';

const stateWords: Readonly<Record<FileLine['state'], string>> = {
  queued: 'waits',
  working: 'being analysed',
  done: 'in the library',
  kept: 'kept with the pack',
  failed: 'could not be read',
  duplicate: 'there already',
  'left-aside': 'left aside',
};

/** How fast the files are heard, and how long the rest takes; '' where nothing can be said. */
function pace({ state, total, startedAt }: BatchProgress, settled: number): string {
  const seconds = (Date.now() - Date.parse(startedAt)) / 1000;
  if (state !== 'analysing' || settled < 3 || seconds < 2) return '';
  const perSecond = settled / seconds;
  return `${perSecond.toFixed(1)} files a second, ${leftInWords((total - settled) / perSecond)}`;
}

/** One import as the server has it: how far it is, what came of it, and what can be done about it. */
export function BatchLine({ batch, onChanged }: { batch: BatchProgress; onChanged: () => void }) {
  const [open, setOpen] = useState(false),
    busy = ['queued', 'unpacking', 'analysing', 'paused'].includes(batch.state),
    isHeld = batch.state === 'paused',
    isUnpacking = batch.state === 'unpacking',
    words = isUnpacking ? 'unpacking, ' : isHeld ? 'held, ' : '',
    settled = batch.total - batch.counts.queued - batch.counts.working;
  const takenBack = batch.loops > 0 && batch.archived === batch.loops;
  const run = async (intent: string) => {
    const isDone = await actOrTell({ intent, batchId: String(batch.id) });
    onChanged();
    return isDone;
  };
  const takeBack = async () => {
    if (await run('take-back'))
      toast(`Took ${batch.loops} loops of “${batch.packName}” back.`, { action: { label: 'Undo', onClick: () => void run('restore') } });
  };
  return (
    <li className="py-2" data-batch={batch.id} data-state={batch.state}>
      <div className="flex items-baseline gap-2">
        <span className="min-w-0 flex-1 truncate font-medium">{batch.packName}</span>
        {busy && (
          <button className="link" onClick={() => void run(isHeld ? 'resume' : 'pause')}>
            {isHeld ? 'go on' : 'hold'}
          </button>
        )}
        {busy ? (
          <button className="link" onClick={() => void run('cancel')}>
            stop
          </button>
        ) : (
          batch.loops > 0 &&
          (takenBack ? (
            <button className="link" onClick={() => void run('restore')}>
              bring back
            </button>
          ) : (
            <button className="link" onClick={() => void takeBack()}>
              take back
            </button>
          ))
        )}
        {batch.state === 'failed' && (
          <button className="link" onClick={() => void run('retry')}>
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
          // How many there are is known when the last archive is at its end.
          value={isUnpacking ? undefined : settled}
          max={Math.max(1, batch.total)}
          aria-label={`Import of ${batch.packName}`}
        />
      )}
      <button className="quiet text-left" aria-expanded={open} onClick={() => setOpen(!open)}>
        {busy
          ? `${words}${settled} of ${batch.total}${isUnpacking || batch.isPacked ? ' so far' : ''}`
          : batch.state === 'cancelled'
            ? 'stopped'
            : batch.state === 'failed'
              ? 'failed'
              : takenBack
                ? 'taken back'
                : 'done'}
        : {batch.loops} in{batch.counts.failed > 0 && <strong className="text-error">, {batch.counts.failed} could not be read</strong>}
        {batch.counts.kept > 0 && `, ${batch.counts.kept} ${batch.counts.kept === 1 ? 'document' : 'documents'}`}
        {batch.counts.duplicate > 0 && `, ${batch.counts.duplicate} there already`}
        {batch.counts['left-aside'] > 0 && `, ${batch.counts['left-aside']} left aside`} {open ? '▴' : '▾'}
      </button>
      <p className="quiet" suppressHydrationWarning>
        {[megabytes(batch.bytes), batch.seconds > 0 && `${soundInWords(batch.seconds)} of sound`, pace(batch, settled)]
          .filter(Boolean)
          .join(', ')}
      </p>
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
