import { useRef, useState } from 'react';
import { FileAudio, Mic, Square } from 'lucide-react';
import type { Near } from '~core/search/query';
import { mostSeconds } from '~/audio/record-sound';
import { useRecorder } from '~/audio/use-recorder';
import { api } from '~/ui/api';
import { askOrTell } from '~/ui/ask';
import { Popover } from '~/ui/popover';
import { toast } from '~/ui/toast';

/** A sound of one's own, dropped, chosen or recorded: what is like it is looked for. */
export function SoundAsked({ onFind }: { onFind: (near: Near) => void }) {
  const [busy, setBusy] = useState<'hearing' | 'asking' | 'recording' | null>(null),
    file = useRef<HTMLInputElement>(null),
    recorder = useRecorder();
  const askFor = async (sound: Blob, name: string) => {
    setBusy('hearing');
    const heard = await askOrTell<{ id: number }>(api.askedSounds(name), { method: 'post', body: sound }, 'That sound could not be heard.');
    setBusy(null);
    if (heard) onFind({ kind: 'sound', id: heard.id, sound: 1, rhythm: 0, harmony: 0 });
  };
  const stop = () => {
    const take = recorder.end();
    if (take) void askFor(take, 'what I recorded.wav');
  };
  const record = async () => {
    if (busy !== null) return;
    setBusy('asking');
    try {
      const begun = await recorder.start(null, () => {
        toast(`A take is ${mostSeconds / 60} minutes at most; this one is looked for.`);
        stop();
      });
      if (begun) setBusy('recording');
    } catch {
      setBusy(null);
      toast.error('The microphone is not there, or may not be used.');
    }
  };
  /** Who closes it while it records wants nothing of it. */
  const giveUp = () => {
    if (busy !== 'asking' && busy !== 'recording') return;
    recorder.giveUp();
    setBusy(null);
  };
  return (
    <Popover label="Like a sound" hint="Like a sound of your own" onClose={giveUp}>
      <h2>Like a sound of your own</h2>
      <div
        className="mt-2 flex h-20 items-center justify-center rounded-sm border border-dashed border-base-300 bg-base-200"
        onDragOver={(event) => event.preventDefault()}
        onDrop={(event) => {
          event.preventDefault();
          const [dropped] = event.dataTransfer.files;
          if (dropped && busy === null) void askFor(dropped, dropped.name);
        }}
      >
        {busy === 'hearing' ? (
          <span role="status">It is being heard …</span>
        ) : busy === 'recording' ? (
          <span role="status">It is being recorded …</span>
        ) : (
          'Drop a sound here'
        )}
      </div>
      <div className="mt-2 flex gap-2">
        <button className="btn btn-sm" disabled={busy !== null} onClick={() => file.current?.click()}>
          <FileAudio className="size-4" aria-hidden="true" /> Choose a file …
        </button>
        <button className="btn btn-sm" disabled={busy === 'hearing'} onClick={() => (busy === 'recording' ? stop() : void record())}>
          {busy === 'recording' ? <Square className="size-4" aria-hidden="true" /> : <Mic className="size-4" aria-hidden="true" />}
          {busy === 'recording' ? 'Stop and look' : 'Record'}
        </button>
      </div>
      <input
        ref={file}
        type="file"
        accept="audio/*,.mid,.midi"
        className="sr-only"
        tabIndex={-1}
        aria-label="A sound to look for"
        onChange={(event) => {
          const [chosen] = event.target.files ?? [];
          if (chosen) void askFor(chosen, chosen.name);
          event.target.value = '';
        }}
      />
      <p className="quiet mt-2">It is heard once and not kept.</p>
    </Popover>
  );
}
