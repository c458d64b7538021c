import { useRef, useState } from 'react';
import { Circle, Square } from 'lucide-react';
import { oneNote } from '~core/arrangement/pattern/one-note';
import type { Pattern } from '~core/arrangement/pattern/pattern';
import { useEngine } from '~/audio/hooks';
import { latencyFrames } from '~/audio/take';
import { Keyboard } from '~/ui/ear/keyboard';
import { newId } from '~/ui/new-id';
import { toast } from '~/ui/toast';
import { playedPitch, recordedNotes, type PlayedKey } from './recorded';
import type { NoteActs } from './use-note-acts';

/** Playing notes into a pattern over the project: with a connected keyboard, the computer’s keys or the pointer, behind a count-in. */
export function RecordKeys({
  pattern,
  instrument,
  clipBeat,
  gridBeats,
  tempoBpm,
  acts,
}: {
  pattern: Pattern;
  instrument: string | null;
  clipBeat: number;
  gridBeats: number;
  tempoBpm: number;
  acts: NoteActs;
}) {
  const engine = useEngine(),
    [isRecording, setRecording] = useState(false),
    [isQuantised, setQuantised] = useState(true),
    [count, setCount] = useState(0),
    down = useRef(new Map<number, { readonly beat: number; readonly velocity: number }>()),
    keys = useRef<PlayedKey[]>([]);
  const start = async () => {
    keys.current = [];
    down.current.clear();
    setCount(0);
    if (engine.store.getState().transportSettings.countInBars === 0) engine.setTransport({ countInBars: 1 });
    engine.stop();
    engine.seek(clipBeat);
    setRecording(true);
    await engine.play();
  };
  const stop = () => {
    setRecording(false);
    engine.stop();
    const { context } = engine,
      lateBeats = context ? ((latencyFrames(context, 0) / context.sampleRate) * tempoBpm) / 60 : 0,
      notes = recordedNotes(
        keys.current,
        { fromBeat: clipBeat, lengthBeats: pattern.lengthBeats, lateBeats, quantiseBeats: isQuantised ? gridBeats : null },
        newId,
      );
    if (notes.length === 0) return void toast('Nothing was played.');
    acts.put(notes);
    toast(`${notes.length === 1 ? 'One note' : `${notes.length} notes`} recorded.`);
  };
  return (
    <div className="flex items-end gap-3">
      <Keyboard
        shares={[]}
        onPlay={(note, velocity) => {
          void engine.hearOnce(oneNote({ pitch: playedPitch(note, pattern.isDrums), velocity }, instrument, pattern.isDrums));
          if (isRecording) down.current.set(note, { beat: engine.positionBeat(), velocity });
        }}
        onRelease={(note) => {
          const pressed = down.current.get(note);
          down.current.delete(note);
          if (!pressed || !isRecording) return;
          keys.current.push({
            pitch: playedPitch(note, pattern.isDrums),
            velocity: pressed.velocity,
            downBeat: pressed.beat,
            upBeat: engine.positionBeat(),
          });
          setCount(keys.current.length);
        }}
      />
      <div className="flex flex-col gap-1.5">
        <button
          className={`btn btn-sm ${isRecording ? 'btn-error' : ''}`}
          aria-pressed={isRecording}
          onClick={() => (isRecording ? stop() : void start())}
        >
          {isRecording ? (
            <Square className="size-3.5" fill="currentColor" />
          ) : (
            <Circle className="size-3.5 text-error" fill="currentColor" />
          )}
          {isRecording ? `Stop, ${count} played` : 'Record'}
        </button>
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={isQuantised}
            onChange={({ target }) => setQuantised(target.checked)}
          />
          onto the grid
        </label>
        <span className="quiet">
          A to K play while the keyboard has the focus{pattern.isDrums && ': C the kick, D the snare, F♯ the hats'}
        </span>
      </div>
    </div>
  );
}
