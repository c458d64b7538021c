import { useCallback, useEffect, useRef, useState, type ChangeEvent } from 'react';
import { FolderOpen, PackageOpen } from 'lucide-react';
import { useStore } from 'zustand';
import { documentsByExtension } from '~core/formats/documents';
import { extensionOf, formatsByExtension } from '~core/formats/sniff';
import { numberedPath } from '~core/names/numbered-path';
import { useLive } from '~/ui/live';
import type { BatchProgress, OpenBatch, VendorHabits } from '~server/services/imports/progress.server';
import { api } from '~/ui/api';
import { askingInOrder } from '~/ui/ask';
import { act, actOrTell } from './act';
import { BatchLine } from './batch-line';
import { DraftForm, guessName } from './draft-form';
import { OpenBatches } from './open-batches';
import { TransferList } from './transfer-list';
import { Transfers } from './transfers';
import { readChosen, readDropped, type Picked } from './upload';

let ofTab: Transfers | null = null;
/** One for the tab: what is on its way goes on while one looks at other pages. */
const transfersOfTab = (): Transfers => (ofTab ??= new Transfers(act, () => {}));

const endingsTaken = ['zip', ...Object.keys(formatsByExtension), ...Object.keys(documentsByExtension)]
  .map((ending) => `.${ending}`)
  .join(',');

/** Drop or choose; say what it is; watch it come in, file by file. */
export function ImportDesk({
  batches: initial,
  open: initialOpen,
  habits,
}: {
  batches: readonly BatchProgress[];
  open: readonly OpenBatch[];
  habits: readonly VendorHabits[];
}) {
  const [picked, setPicked] = useState<readonly Picked[]>([]),
    [over, setOver] = useState(false),
    [problem, setProblem] = useState<string | null>(null);
  const folder = useRef<HTMLInputElement>(null),
    { batches, open, refresh } = useBatches(initial, initialOpen),
    transfers = transfersOfTab(),
    onTheirWay = useStore(transfers.store, (state) => state.list);
  useEffect(() => {
    folder.current?.setAttribute('webkitdirectory', '');
  }, []);
  // Looked at again when one has arrived, or was given up.
  useEffect(refresh, [refresh, onTheirWay.length]);
  const take = (next: readonly Picked[]) => {
    setPicked(next);
    setProblem(next.length === 0 ? 'There was no file in that.' : null);
  };
  const choose = ({ currentTarget }: ChangeEvent<HTMLInputElement>) => {
    if (currentTarget.files) take(readChosen(currentTarget.files));
    // The same files again are another choice, when these were left.
    currentTarget.value = '';
  };
  const send = (form: FormData, cover: File | null) => {
    const taken = new Set(picked.map(({ path }) => path)),
      all = cover ? [...picked, { path: numberedPath(`Cover.${extensionOf(cover.name)}`, taken), file: cover }] : picked;
    transfers.add(Object.fromEntries([...form].map(([name, value]) => [name, String(value)])), all);
    setPicked([]);
  };
  const goOn = (batch: OpenBatch) => {
    transfers.add({ packName: batch.packName }, picked, batch.id, batch.paths);
    setPicked([]);
  };
  const drop = (batch: OpenBatch) => void actOrTell({ intent: 'drop', batchId: String(batch.id) }).then(refresh);
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
        <p className="quiet mt-0.5">WAV, AIFF, FLAC, Ogg Vorbis, Opus, MP3, MIDI</p>
        <div className="mt-2 flex justify-center gap-2">
          <label className="btn btn-sm focus-within:outline-2">
            <PackageOpen className="size-4" /> Choose files
            <input type="file" multiple className="sr-only" data-choose-files accept={endingsTaken} onChange={choose} />
          </label>
          <label className="btn btn-sm focus-within:outline-2">
            <FolderOpen className="size-4" /> Choose a folder
            <input ref={folder} type="file" multiple className="sr-only" onChange={choose} />
          </label>
        </div>
      </div>
      {picked.length > 0 && (
        <DraftForm key={guessName(picked)} picked={picked} habits={habits} onSend={send} onLeave={() => setPicked([])} />
      )}
      <OpenBatches
        open={open.filter(({ id }) => !onTheirWay.some(({ batchId }) => batchId === id))}
        picked={picked}
        onGoOn={goOn}
        onDrop={drop}
      />
      <TransferList transfers={transfers} />
      {problem && (
        <p className="text-error mt-2" role="alert">
          {problem}
        </p>
      )}
      <h3 className="caps mt-4">Came in lately</h3>
      <ul className="mt-1 flex flex-col divide-y divide-base-300 border-y border-base-300">
        {batches.map((batch) => (
          <BatchLine key={batch.id} batch={batch} onChanged={refresh} />
        ))}
      </ul>
      {batches.length === 0 && <p className="quiet">Nothing yet.</p>}
    </aside>
  );
}

/** Batches as they change: the server says when, the page asks what. */
function useBatches(initial: readonly BatchProgress[], initialOpen: readonly OpenBatch[]) {
  const [fresh, setFresh] = useState<{ readonly batches: readonly BatchProgress[]; readonly open: readonly OpenBatch[] } | null>(null),
    [inOrder] = useState(askingInOrder),
    waiting = useRef<number | null>(null);
  const refresh = useCallback(() => {
    if (waiting.current !== null) return;
    waiting.current = window.setTimeout(() => {
      waiting.current = null;
      void inOrder<{ batches: BatchProgress[]; open: OpenBatch[] }>(api.imports).then((answer) => answer && setFresh(answer));
    }, 150);
  }, [inOrder]);
  useLive('import', refresh);
  useLive('library', refresh);
  useLive('missed', refresh);
  return { batches: fresh?.batches ?? initial, open: fresh?.open ?? initialOpen, refresh };
}
