import { useMemo } from 'react';
import * as change from '~core/arrangement/pattern/edit-notes';
import type { Pattern, PatternNote } from '~core/arrangement/pattern/pattern';
import type { Key } from '~core/theory/key';
import { newId } from '~/ui/new-id';
import { useProjectStore } from '~/ui/project-store';
import { toast } from '~/ui/toast';

/** What lies on the clipboard of the editor. */
let clipboard: readonly PatternNote[] = [];

/** What can be done to the notes of a pattern: to the chosen ones, or to all where none is. Each is one step. */
export function useNoteActs(pattern: Pattern, chosen: ReadonlySet<string>, choose: (ids: Iterable<string>) => void) {
  const store = useProjectStore();
  return useMemo(() => {
    const meant = chosen.size > 0 ? pattern.notes.filter(({ id }) => chosen.has(id)) : pattern.notes,
      put = (notes: readonly PatternNote[], gone: readonly string[] = []): boolean => {
        if (notes.length === 0 && gone.length === 0) return false;
        const wrong = store.edit({ kind: 'change-notes', patternId: pattern.id, gone, put: notes });
        if (wrong) toast.error(wrong);
        return wrong === null;
      },
      all = (make: (notes: readonly PatternNote[]) => readonly PatternNote[]) => meant.length > 0 && put(make(meant));
    return {
      meant,
      put,
      add: (note: Omit<PatternNote, 'id'>) => {
        const made = { ...note, id: newId() };
        if (put([made])) choose([made.id]);
      },
      move: (by: Parameters<typeof change.moved>[1]) => chosen.size > 0 && all((notes) => change.moved(notes, by)),
      quantise: (gridBeats: number, strength: number, swing: number) => all((notes) => change.quantised(notes, gridBeats, strength, swing)),
      humanise: (amount: number, seed: number) => all((notes) => change.humanised(notes, amount, seed)),
      transpose: (semitones: number) => all((notes) => change.transposed(notes, semitones)),
      inScale: (key: Key, steps: number) => all((notes) => change.transposedInScale(notes, key, steps)),
      legato: () => all(change.legato),
      reverse: () => all(change.reversed),
      onceMore: (gridBeats: number) => {
        const made = change.repeated(meant, gridBeats, newId);
        if (meant.length > 0 && put(made)) choose(made.map(({ id }) => id));
      },
      remove: () => {
        if (chosen.size === 0) return;
        put([], [...chosen]);
        choose([]);
      },
      copy: () => {
        clipboard = meant;
        toast(`${meant.length === 1 ? 'One note' : `${meant.length} notes`} copied.`);
      },
      paste: (atBeat: number) => {
        if (clipboard.length === 0) return;
        const from = Math.min(...clipboard.map(({ startBeat }) => startBeat)),
          made = clipboard.map((note) => ({ ...note, id: newId(), startBeat: note.startBeat - from + atBeat }));
        if (put(made)) choose(made.map(({ id }) => id));
      },
    };
  }, [pattern, chosen, choose, store]);
}

export type NoteActs = ReturnType<typeof useNoteActs>;
