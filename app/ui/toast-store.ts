import { createStore } from 'zustand/vanilla';

export interface ToastAction {
  readonly label: string;
  readonly onClick: () => void;
}
export interface Shown {
  readonly id: number;
  readonly text: string;
  readonly action: ToastAction | null;
  readonly error: boolean;
}

const shownMs = 8000;

/** Messages that go away by themselves, but while somebody is at one of them (WCAG 2.2, 2.2.1). */
export class ToastStore {
  readonly store = createStore<{ readonly shown: readonly Shown[] }>(() => ({ shown: [] }));
  private readonly timers = new Map<number, ReturnType<typeof setTimeout>>();
  private nextId = 1;
  private isHeld = false;

  show(text: string, action: ToastAction | null, error: boolean): void {
    const id = this.nextId++;
    this.store.setState(({ shown }) => ({ shown: [...shown.slice(-2), { id, text, action, error }] }));
    if (!this.isHeld) this.wait(id);
  }

  hide(id: number): void {
    clearTimeout(this.timers.get(id));
    this.timers.delete(id);
    this.store.setState(({ shown }) => ({ shown: shown.filter((each) => each.id !== id) }));
    // Whoever was at it is nowhere now, and no event says so.
    if (this.isHeld) this.letGo();
  }

  hold(): void {
    this.isHeld = true;
    for (const timer of this.timers.values()) clearTimeout(timer);
  }

  letGo(): void {
    this.isHeld = false;
    for (const { id } of this.store.getState().shown) this.wait(id);
  }

  private wait(id: number): void {
    clearTimeout(this.timers.get(id));
    this.timers.set(
      id,
      setTimeout(() => this.hide(id), shownMs),
    );
  }
}
