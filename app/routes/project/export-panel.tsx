import { useState } from 'react';
import { api } from '~/ui/api';
import { askOrTell } from '~/ui/ask';
import { useRenewal } from '~/ui/use-renewal';
import { useLive } from '~/ui/live';
import { Download } from 'lucide-react';
import type { ExportLine } from '~server/services/exports.server';

const stateWords: Readonly<Record<ExportLine['state'], string>> = {
  queued: 'waits …',
  working: 'being rendered …',
  done: 'ready',
  failed: 'failed',
  stopped: 'stopped',
};

/** The mixdown as WAV, or that with a stem a track and the notes as a zip; with the list of what was used. */
export function ExportPanel({ projectId, initial }: { projectId: number; initial: readonly ExportLine[] }) {
  const [isAsking, setAsking] = useState(false),
    [what, setWhat] = useState<ExportLine['what']>('mixdown'),
    renew = useRenewal(),
    [latest] = initial;
  const waiting = latest !== undefined && (latest.state === 'queued' || latest.state === 'working');
  /** How far the latest is, as it was told. */
  const [told, setTold] = useState<{ readonly exportId: number; readonly share: number } | null>(null);
  useLive('export', ({ exportId, share }) => (share === undefined ? void renew() : setTold({ exportId, share })));
  const askFor = async (form: FormData) => {
    setAsking(true);
    if (await askOrTell(api.projectExports(projectId), { method: 'post', body: form })) await renew();
    setAsking(false);
  };
  return (
    <section aria-label="Export" className="flex min-h-11 shrink-0 items-center gap-3 border-t border-base-300 px-3 py-1.5">
      <form
        className="flex shrink-0 items-center gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void askFor(new FormData(event.currentTarget));
        }}
      >
        <select
          name="what"
          className="select select-xs w-50 font-semibold"
          aria-label="What goes out"
          value={what}
          onChange={({ target }) => setWhat(target.value as ExportLine['what'])}
        >
          <option value="mixdown">Mixdown</option>
          <option value="stems">Mixdown, stems, notes</option>
        </select>
        <select name="bits" className="select select-xs w-27" aria-label="Bits" defaultValue="24">
          <option value="24">24 bit</option>
          <option value="16">16 bit</option>
          <option value="32">32 bit float</option>
        </select>
        <select name="rateHz" className="select select-xs w-27" aria-label="Rate" defaultValue="44100">
          <option value="44100">44.1 kHz</option>
          <option value="48000">48 kHz</option>
        </select>
        <select name="overs" className="select select-xs w-52" aria-label="What passes full scale" defaultValue="lower">
          <option value="lower">too loud: bring all down</option>
          <option value="clip">too loud: clip it</option>
        </select>
        <button className="btn btn-sm" disabled={isAsking}>
          {what === 'stems' ? 'Export zip' : 'Export WAV'}
        </button>
      </form>
      {latest && (
        <p className="flex min-w-0 items-center gap-3" role="status" data-export-state={latest.state} data-export-id={latest.id}>
          <span className={latest.state === 'failed' ? 'text-error' : ''}>{stateWords[latest.state]}</span>
          {waiting && (
            <>
              <progress
                className="progress progress-primary w-28"
                aria-label="How far it is"
                max={1}
                value={told?.exportId === latest.id ? told.share : 0}
              />
              <button
                className="btn btn-ghost btn-xs"
                onClick={() => void askOrTell(api.projectExport(projectId, latest.id), { method: 'delete' })}
              >
                Stop
              </button>
            </>
          )}
          {latest.fileSha && (
            <a className="link inline-flex items-center gap-1" href={`/media/export/${latest.id}`}>
              <Download className="size-4" />
              {latest.what === 'stems' ? 'Zip' : 'WAV'}, {latest.bits} bit
            </a>
          )}
          {latest.fileSha && (
            <a className="link" href={`/media/export/${latest.id}?what=credits`}>
              what was used, under which licence
            </a>
          )}
          {latest.message && <span className="quiet truncate">{latest.message}</span>}
        </p>
      )}
      {!latest && (
        <p className="quiet min-w-0 truncate">
          {what === 'stems'
            ? 'A stem a track: side by side they are the mixdown. Notes as MIDI, and what was used.'
            : 'Renders the project as it is now, with a list of the loops heard in it and their licences.'}
        </p>
      )}
    </section>
  );
}
