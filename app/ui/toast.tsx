import { X } from 'lucide-react';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';

export interface ToastAction {
  readonly label: string;
  readonly onClick: () => void;
}
interface Shown {
  readonly id: number;
  readonly text: string;
  readonly action: ToastAction | null;
  readonly error: boolean;
}

const store = createStore<{ shown: readonly Shown[] }>(() => ({ shown: [] }));
const shownMs = 8000;
let nextId = 1;

function show(text: string, action: ToastAction | null, error: boolean): void {
  const id = nextId++;
  store.setState(({ shown }) => ({ shown: [...shown.slice(-2), { id, text, action, error }] }));
  setTimeout(() => hide(id), shownMs);
}

const hide = (id: number): void => store.setState(({ shown }) => ({ shown: shown.filter((each) => each.id !== id) }));

/** Says what was done, with a way back where there is one. */
export const toast = Object.assign((text: string, { action = null }: { action?: ToastAction | null } = {}) => show(text, action, false), {
  error: (text: string) => show(text, null, true),
});

/**
 * The region in which toasts appear. Ours, since the package tried before gave the focus back to where it came from when
 * one pressed Tab on its last button: nobody got past it by keyboard.
 */
export function Toasts() {
  const shown = useStore(store, (state) => state.shown);
  return (
    <div className="fixed bottom-34 left-3 z-40 flex max-w-md flex-col gap-2" role="status" aria-live="polite">
      {shown.map((each) => (
        <div key={each.id} className={`panel flex items-center gap-3 bg-base-200 py-1.5 pl-3 pr-1.5 ${each.error ? 'border-error' : ''}`}>
          <span>{each.text}</span>
          {each.action && (
            <button
              className="btn btn-sm"
              onClick={() => {
                each.action?.onClick();
                hide(each.id);
              }}
            >
              {each.action.label}
            </button>
          )}
          <button className="btn btn-ghost btn-sm btn-square" aria-label="Close this message" onClick={() => hide(each.id)}>
            <X className="size-4" />
          </button>
        </div>
      ))}
    </div>
  );
}
