import { X } from 'lucide-react';
import { useStore } from 'zustand';
import { ToastStore, type ToastAction } from './toast-store';

const toasts = new ToastStore();

/** Says what was done, with a way back where there is one. */
export const toast = Object.assign(
  (text: string, { action = null }: { action?: ToastAction | null } = {}) => toasts.show(text, action, false),
  {
    error: (text: string) => toasts.show(text, null, true),
  },
);

/**
 * The region in which toasts appear. Ours, since the package tried before gave the focus back to where it came from when
 * one pressed Tab on its last button: nobody got past it by keyboard.
 */
export function Toasts() {
  const shown = useStore(toasts.store, (state) => state.shown);
  return (
    <div
      className="fixed bottom-34 left-3 z-40 flex max-w-md flex-col gap-2"
      role="status"
      aria-live="polite"
      onPointerEnter={() => toasts.hold()}
      onPointerLeave={() => toasts.letGo()}
      onFocus={() => toasts.hold()}
      onBlur={() => toasts.letGo()}
    >
      {shown.map((each) => (
        <div key={each.id} className={`panel flex items-center gap-3 bg-base-200 py-1.5 pl-3 pr-1.5 ${each.error ? 'border-error' : ''}`}>
          <span>{each.text}</span>
          {each.action && (
            <button
              className="btn btn-sm"
              onClick={() => {
                each.action?.onClick();
                toasts.hide(each.id);
              }}
            >
              {each.action.label}
            </button>
          )}
          <button className="btn btn-ghost btn-sm btn-square" aria-label="Close this message" onClick={() => toasts.hide(each.id)}>
            <X className="size-4" />
          </button>
        </div>
      ))}
    </div>
  );
}
