import { useRef, useState } from 'react';
import { FileAudio, Mic, Square } from 'lucide-react';
import { mostSeconds } from '~/audio/record-sound';
import { useRecorder } from '~/audio/use-recorder';
import { useEngine } from '~/audio/hooks';
import { api } from '~/ui/api';
import { askOrTell } from '~/ui/ask';
import { useLive } from '~/ui/live';
import { useProject } from '~/ui/project-store';
import { RoomLink, useRoomNavigate } from '~/ui/room-link';
import { fetchMakings } from '~/ui/sheet/making-api';
import { toast } from '~/ui/toast';

const takeName = (): string => new Date().toISOString().slice(0, 19).replace('T', ' ').replaceAll(':', '.');

/** The bench with nothing on it: a loop from the library, a file that is dropped, or a recording. */
export function BringIn() {
  const [busy, setBusy] = useState<'taking' | 'asking' | 'recording' | null>(null),
    waitedFor = useRef<number | null>(null),
    recorder = useRecorder(),
    /** What plays along, with the frame of its first beat; null where nothing does. */
    over = useRef<{ readonly firstFrame: number; readonly tempoBpm: number | null } | null>(null),
    [latencyMs, setLatencyMs] = useState<number | null>(null),
    project = useProject((state) => state.project),
    file = useRef<HTMLInputElement>(null),
    engine = useEngine(),
    navigate = useRoomNavigate();
  const look = (id: number) =>
    void fetchMakings([id]).then(([made]) => {
      if (made?.state === 'done' && made.loopId !== null) navigate(`/workbench/${made.loopId}`);
      if (made?.state !== 'failed') return;
      waitedFor.current = null;
      setBusy(null);
    });
  useLive('making', ({ makingId }) => {
    if (makingId === waitedFor.current) look(makingId);
  });
  useLive('missed', () => void (waitedFor.current !== null && look(waitedFor.current)));
  const take = async (sound: Blob, name: string, tempoBpm: number | null = null) => {
    setBusy('taking');
    const sent = { method: 'post', body: sound },
      taken = await askOrTell<{ id: number }>(api.makingFiles(name, tempoBpm), sent, 'That sound could not be taken.');
    if (!taken) return setBusy(null);
    waitedFor.current = taken.id;
    look(waitedFor.current);
  };
  const stop = () => {
    const { firstFrame, tempoBpm } = over.current ?? {},
      sound = recorder.end(firstFrame);
    if (!sound) return;
    if (firstFrame !== undefined) engine.stop();
    void take(sound, `Take ${takeName()}.wav`, tempoBpm);
  };
  const full = () => {
    toast(`A take is ${mostSeconds / 60} minutes at most; this one goes onto the bench.`);
    stop();
  };
  /** Over the project: counted in, from its playhead on; the take begins with its first beat, what comes late is taken off. */
  const record = async (overProject: boolean) => {
    if (busy !== null) return;
    setBusy('asking');
    over.current = null;
    try {
      if (overProject) await engine.open();
      const begun = await recorder.start(overProject ? engine.context : null, full);
      if (!begun) return;
      if (overProject) engine.stop();
      const firstFrame = overProject ? await engine.play() : null;
      if (firstFrame !== null) over.current = { firstFrame, tempoBpm: project?.tempoBpm ?? null };
      setLatencyMs(overProject ? begun.latencyMs : null);
      setBusy('recording');
    } catch {
      recorder.giveUp();
      setBusy(null);
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
        if (dropped && busy === null) void take(dropped, dropped.name);
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
          <span role="status">
            It is being recorded …{' '}
            {latencyMs !== null && (
              <span className="quiet block">What you play comes in {latencyMs.toFixed(0)} ms late; that is taken off.</span>
            )}
          </span>
        ) : (
          'Drop a sound here'
        )}
      </div>
      <div className="flex flex-wrap justify-center gap-2">
        <button className="btn btn-sm" disabled={busy !== null} onClick={() => file.current?.click()}>
          <FileAudio className="size-4" aria-hidden="true" /> Choose a file …
        </button>
        {busy === 'recording' ? (
          <button className="btn btn-sm btn-primary" autoFocus onClick={stop}>
            <Square className="size-4" aria-hidden="true" /> Stop, and onto the bench
          </button>
        ) : (
          <>
            <button className="btn btn-sm" disabled={busy === 'taking'} onClick={() => void record(false)}>
              <Mic className="size-4" aria-hidden="true" /> Record
            </button>
            {project && (
              <button
                className="btn btn-sm"
                disabled={busy === 'taking'}
                onClick={() => void record(true)}
                title="Counted in as the ribbon says; the take begins with the first beat"
              >
                <Mic className="size-4" aria-hidden="true" /> Record over “{project.name}”
              </button>
            )}
          </>
        )}
        <RoomLink to="/" className="btn btn-sm">
          A loop from the library
        </RoomLink>
      </div>
      <p className="quiet">In the library, a loop’s menu and its page have “On the workbench”.</p>
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
