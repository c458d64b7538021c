import { useEffect, useRef, useState } from 'react';
import { pitchClassName, noteName } from '~core/theory/key';
import { pitchClass } from '~core/units/pitch';
import { listenToKeys } from '~/audio/midi-input';

const lowest = 48,
  count = 25,
  /** Of keys that do not tell how hard they are struck. */
  plainVelocity = 96;
const isBlack = (note: number): boolean => [1, 3, 6, 8, 10].includes(pitchClass(note));
/** By where keys lie on the board, whatever is printed on them: the middle row is white, the one above black. */
const noteByCode: Readonly<Record<string, number>> = Object.fromEntries(
  ['KeyA', 'KeyW', 'KeyS', 'KeyE', 'KeyD', 'KeyF', 'KeyT', 'KeyG', 'KeyY', 'KeyH', 'KeyU', 'KeyJ', 'KeyK'].map((code, k) => [code, 60 + k]),
);

/** Two octaves to play: with the pointer, with the computer's keys while it has the focus, with a connected instrument. Notes of the loop are marked. */
export function Keyboard({
  shares,
  onPlay,
  onRelease,
}: {
  shares: readonly number[];
  /** `velocity` 1–127. */
  onPlay: (note: number, velocity: number) => void;
  onRelease?: (note: number) => void;
}) {
  const [down, setDown] = useState<ReadonlySet<number>>(new Set());
  const press = (note: number, isDown: boolean, velocity = plainVelocity) => {
    setDown((before) => {
      const next = new Set(before);
      if (isDown) next.add(note);
      else next.delete(note);
      return next;
    });
    if (isDown) onPlay(note, velocity);
    else onRelease?.(note);
  };
  useConnectedKeys(press);
  const most = Math.max(1e-9, ...shares),
    whites = Array.from({ length: count }, (_, k) => lowest + k).filter((note) => !isBlack(note)),
    width = 26,
    leftOf = (note: number) => (isBlack(note) ? whites.indexOf(note - 1) * width + width * 0.66 : whites.indexOf(note) * width);
  const onKey = (event: React.KeyboardEvent, isDown: boolean) => {
    const note = noteByCode[event.code];
    if (note === undefined || event.ctrlKey || event.metaKey || event.altKey || (isDown && event.repeat)) return;
    event.preventDefault();
    event.stopPropagation();
    press(note, isDown);
  };
  return (
    <div
      className="relative h-24 rounded-sm"
      style={{ width: whites.length * width }}
      role="group"
      tabIndex={0}
      aria-label={`Keyboard, C3 to C5. The loop’s notes: ${shares
        .map((share, pitch) => ({ share, pitch }))
        .filter(({ share }) => share > most * 0.35)
        .map(({ pitch }) => pitchClassName(pitch))
        .join(', ')}. The keys A to K play while it has the focus.`}
      onKeyDown={(event) => onKey(event, true)}
      onKeyUp={(event) => onKey(event, false)}
    >
      {[false, true].flatMap((black) =>
        Array.from({ length: count }, (_, k) => lowest + k)
          .filter((note) => isBlack(note) === black)
          .map((note) => {
            const share = (shares[pitchClass(note)] ?? 0) / most;
            return (
              <button
                key={note}
                tabIndex={-1}
                aria-label={noteName(note)}
                data-down={down.has(note) || undefined}
                className="absolute top-0 rounded-b-sm border border-base-content data-down:brightness-75"
                style={{
                  left: leftOf(note),
                  width: black ? width * 0.68 : width,
                  height: black ? 58 : 96,
                  background: black ? 'var(--color-base-content)' : 'var(--color-base-100)',
                }}
                onPointerDown={() => press(note, true)}
                onPointerUp={() => press(note, false)}
                onPointerLeave={() => down.has(note) && press(note, false)}
              >
                {share > 0.35 && (
                  <span
                    className="absolute inset-x-0 bottom-1.5 mx-auto block rounded-full"
                    style={{
                      width: 5 + 7 * share,
                      height: 5 + 7 * share,
                      background: black ? 'var(--color-base-100)' : 'var(--color-primary)',
                    }}
                  />
                )}
              </button>
            );
          }),
      )}
    </div>
  );
}

/** Keys of connected instruments, for as long as the keyboard is there. */
function useConnectedKeys(press: (note: number, isDown: boolean, velocity: number) => void): void {
  const latest = useRef(press);
  useEffect(() => {
    latest.current = press;
  });
  useEffect(() => {
    let stop: (() => void) | null = null,
      gone = false;
    void listenToKeys((note, velocity) => latest.current(note, velocity > 0, velocity)).then((found) => {
      if (gone) found?.();
      else stop = found;
    });
    return () => {
      gone = true;
      stop?.();
    };
  }, []);
}
