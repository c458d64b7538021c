import type { OpenBatch } from '~server/services/imports/progress.server';
import type { Picked } from './upload';

/** Imports that were begun and not finished: with the same files they go on where they broke off. */
export function OpenBatches({
  open,
  picked,
  onGoOn,
  onDrop,
}: {
  open: readonly OpenBatch[];
  picked: readonly Picked[];
  onGoOn: (batch: OpenBatch) => void;
  onDrop: (batch: OpenBatch) => void;
}) {
  if (open.length === 0) return null;
  return (
    <section className="panel mt-3 p-3" aria-labelledby="open-title">
      <h3 id="open-title" className="caps">
        Not finished
      </h3>
      <ul className="mt-1 flex flex-col gap-2">
        {open.map((batch) => (
          <li key={batch.id}>
            <p>
              <strong>{batch.packName}</strong>: {batch.paths.length} {batch.paths.length === 1 ? 'file has' : 'files have'} arrived.
            </p>
            {picked.length === 0 && <p className="quiet">Choose or drop the same files again to go on.</p>}
            <div className="mt-1 flex gap-2">
              <button className="btn btn-xs btn-primary" disabled={picked.length === 0} onClick={() => onGoOn(batch)}>
                Go on with it
              </button>
              <button className="btn btn-xs" onClick={() => onDrop(batch)}>
                Throw it away
              </button>
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}
