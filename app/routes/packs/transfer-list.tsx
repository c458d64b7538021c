import { useStore } from 'zustand';
import { leftInWords, type Transfer, type Transfers } from './transfers';
import { megabytes } from '~/ui/size-words';

const stateWords: Readonly<Record<Transfer['state'], string>> = {
  waiting: 'waits for the one before',
  sending: 'on its way',
  paused: 'held',
  failed: 'broke off',
};

/** Imports on their way to the server, each with how far it is, and what can be done about it. */
export function TransferList({ transfers }: { transfers: Transfers }) {
  const list = useStore(transfers.store, (state) => state.list);
  if (list.length === 0) return null;
  return (
    <section className="mt-3 flex flex-col gap-2" aria-label="On their way">
      {list.map((transfer) => (
        <Row key={transfer.id} transfer={transfer} transfers={transfers} />
      ))}
    </section>
  );
}

function Row({ transfer, transfers }: { transfer: Transfer; transfers: Transfers }) {
  const { id, packName, files, filesSent, sentBytes, totalBytes, state, message, bytesPerSecond } = transfer,
    left = state === 'sending' && bytesPerSecond ? (totalBytes - sentBytes) / bytesPerSecond : null;
  return (
    <div className="panel p-3" data-transfer={state}>
      <p className="flex items-baseline justify-between gap-2">
        <span className="truncate font-medium">{packName}</span>
        <span className={state === 'failed' ? 'text-error shrink-0' : 'quiet shrink-0'}>{stateWords[state]}</span>
      </p>
      <progress
        className="progress progress-primary w-full"
        value={sentBytes}
        max={Math.max(1, totalBytes)}
        aria-label={`Upload of ${packName}`}
      />
      <p className="quiet">
        {filesSent} of {files} {files === 1 ? 'file' : 'files'}, {megabytes(sentBytes)} of {megabytes(totalBytes)}
        {bytesPerSecond !== null && `, ${megabytes(bytesPerSecond)} a second`}
        {left !== null && `, ${leftInWords(left)}`}
      </p>
      {message && (
        <p className="text-error" role="alert">
          {message}
        </p>
      )}
      <div className="mt-1 flex gap-2">
        {state === 'sending' || state === 'waiting' ? (
          <button className="btn btn-xs" onClick={() => transfers.pause(id)}>
            Hold
          </button>
        ) : (
          <button className="btn btn-xs btn-primary" onClick={() => transfers.resume(id)}>
            Go on
          </button>
        )}
        <button className="btn btn-xs" onClick={() => void transfers.cancel(id)}>
          Stop
        </button>
      </div>
    </div>
  );
}
