import { useRef, useState } from 'react';
import { FileAudio, Mic, Square } from 'lucide-react';
import { recordSound, type Recording } from '~/audio/record-sound';
import { useEngine, useEngineState } from '~/audio/hooks';
import { api, refusalOf } from '~/ui/api';
import { useLive } from '~/ui/live';
import { RoomLink, useRoomNavigate } from '~/ui/room-link';
import { fetchMakings } from '~/ui/sheet/making-api';
import { toast } from '~/ui/toast';

/** The bench with nothing on it: a loop from the library, a file that is dropped, or a recording. */
export function BringIn() {
  const [busy, setBusy] = useState<'taking' | 'recording' | null>(null),
    waitedFor = useRef<number | null>(null),
    recording = useRef<Recording | null>(null),
    takes = useRef(0),
    file = useRef<HTMLInputElement>(null),
    engine = useEngine(),
    playing = useEngineState((state) => state.playing),
    navigate = useRoomNavigate();
  const look = (id: number) =>
    void fetchMakings([id]).then(([made]) => {
      if (made?.state === 'done' && made.loopId !== null) navigate(`/workbench/${made.loopId}`);
      if (made?.state === 'failed') setBusy(null);
    });
  useLive('making', ({ makingId }) => {
    if (makingId === waitedFor.current) look(makingId);
  });
  const take = async (sound: Blob, name: string) => {
    setBusy('taking');
    const response = await fetch(api.makingFiles(name), { method: 'post', body: sound }).catch(() => null),
      answer: unknown = response ? await response.json().catch(() => null) : null;
    if (!response?.ok) {
      setBusy(null);
      return void toast.error(refusalOf(answer) ?? 'That sound could not be taken.');
    }
    waitedFor.current = (answer as { id: number }).id;
    look(waitedFor.current);
  };
  const record = async () => {
    if (recording.current) {
      const sound = recording.current.stop();
      recording.current = null;
      if (playing) engine.stop();
      takes.current++;
      return take(sound, `Take ${takes.current}, ${new Date().toISOString().slice(0, 16).replace('T', ' ').replace(':', '.')}.wav`);
    }
    try {
      recording.current = await recordSound();
      setBusy('recording');
    } catch {
      toast.error('The microphone is not there, or may not be used.');
    }
  };
  return (
    <div
      className="mx-auto flex max-w-2xl flex-col items-center gap-4 p-10 text-center"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        const [dropped] = event.dataTransfer.files;
        if (dropped) void take(dropped, dropped.name);
      }}
    >
      <h1>Workbench</h1>
      <p className="quiet">
        Here a loop is cut to its bars, drawn onto the grid, tuned, sliced, cleaned and layered, with the project still in the room. What
        comes of it goes into a pack of your own; what it was made of stays as it is.
      </p>
      <div className="flex h-28 w-full items-center justify-center rounded-sm border border-dashed border-base-content/40 bg-base-200">
        {busy === 'taking' ? (
          <span role="status">It is being listened to …</span>
        ) : busy === 'recording' ? (
          <span role="status">It is being recorded …</span>
        ) : (
          'Drop a sound here'
        )}
      </div>
      <div className="flex flex-wrap justify-center gap-2">
        <button className="btn btn-sm" disabled={busy !== null} onClick={() => file.current?.click()}>
          <FileAudio className="size-4" aria-hidden="true" /> Choose a file …
        </button>
        <button className="btn btn-sm" disabled={busy === 'taking'} onClick={() => void record()}>
          {busy === 'recording' ? <Square className="size-4" aria-hidden="true" /> : <Mic className="size-4" aria-hidden="true" />}
          {busy === 'recording' ? 'Stop, and onto the bench' : 'Record'}
        </button>
        <RoomLink to="/" className="btn btn-sm">
          A loop from the library
        </RoomLink>
      </div>
      <p className="quiet">In the library, a loop’s menu and its page have “On the workbench”. Play the project first to record over it.</p>
      <input
        ref={file}
        type="file"
        accept="audio/*"
        className="sr-only"
        tabIndex={-1}
        aria-label="A sound for the workbench"
        onChange={(event) => {
          const [chosen] = event.target.files ?? [];
          if (chosen) void take(chosen, chosen.name);
          event.target.value = '';
        }}
      />
    </div>
  );
}
