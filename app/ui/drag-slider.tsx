import { useEffect, useEffectEvent, useRef, useState } from 'react';

interface DragSliderProps extends Omit<React.ComponentProps<'input'>, 'type' | 'value' | 'onChange' | 'children'> {
  readonly value: number;
  /** While it is dragged, or an arrow key is held: to be heard or shown, not kept. */
  readonly onDraft?: (value: number) => void;
  /** Once, when it is let go. */
  readonly onCommit: (value: number) => void;
  /** What stands beside it: the number as it would become. */
  readonly children?: (value: number) => React.ReactNode;
}

/** A slider whose whole drag is one change: what it passes on its way is shown and heard, and kept by nobody. */
export function DragSlider({ value, onDraft, onCommit, children, ...input }: DragSliderProps) {
  const [draft, setDraft] = useState<number | null>(null),
    ref = useRef<HTMLInputElement>(null),
    keyHeld = useRef(false),
    committed = useRef<number | null>(null);
  const commit = () => {
    const chosen = Number(ref.current?.value);
    setDraft(null);
    // Letting go, a key that comes up and leaving may tell of one change before its value is back here.
    if (chosen === value || chosen === committed.current) return;
    committed.current = chosen;
    onCommit(chosen);
  };
  const released = useEffectEvent(() => {
    if (!keyHeld.current) commit();
  });
  // React's own onChange is what browsers call input; their change comes when it is let go.
  useEffect(() => {
    const slider = ref.current,
      listen = () => released();
    slider?.addEventListener('change', listen);
    return () => slider?.removeEventListener('change', listen);
  }, []);
  return (
    <>
      <input
        {...input}
        ref={ref}
        type="range"
        value={draft ?? value}
        onChange={(event) => {
          committed.current = null;
          setDraft(event.target.valueAsNumber);
          onDraft?.(event.target.valueAsNumber);
        }}
        onKeyDown={(event) => {
          keyHeld.current = event.key.startsWith('Arrow') || ['Home', 'End', 'PageUp', 'PageDown'].includes(event.key);
        }}
        onKeyUp={() => {
          keyHeld.current = false;
          commit();
        }}
        onBlur={() => {
          keyHeld.current = false;
          commit();
        }}
      />
      {children?.(draft ?? value)}
    </>
  );
}
