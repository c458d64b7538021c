import { useEffect, useMemo, useRef, type RefObject } from 'react';
import { changeTracks, clipsOfTrack, duplicateTrack, moveTrack } from '~core/arrangement/acts/clips';
import type { Edit } from '~core/arrangement/edit';
import { findClip, type Project, type Track } from '~core/arrangement/tree';
import { useEngine } from '~/audio/hooks';
import { newId } from '~/ui/new-id';
import { useProjectStore } from '~/ui/project-store';
import { toast } from '~/ui/toast';
import type { Choosing, ClipHands } from './clip-box';
import { askedOfTracks, askToGiveBack } from './give-back';
import { pressOnClip, type ClipDialog } from './clip-keys';
import type { MenuPlace } from './clip-menu';
import { rulerHeight, trackHeights } from './measures';
import { sizeOf, type TimelineView } from './timeline-view';
import type { TrackHands } from './track-menu';
import type { ClipActs } from './use-acts';

/** What holds at the moment when something is asked for. */
interface Now {
  readonly acts: ClipActs;
  readonly project: Project;
  readonly rows: readonly Track[];
  readonly stepBeats: number | null;
  readonly bar: number;
}

interface Wiring {
  readonly view: TimelineView;
  readonly scroller: RefObject<HTMLDivElement | null>;
  readonly now: Now;
  readonly make: (edit: Edit | null, otherwise: string) => void;
  readonly choose: (clipId: string, how: Choosing) => void;
  readonly setChosen: (clipIds: readonly string[]) => void;
  readonly setChosenTracks: (change: (before: ReadonlySet<string>) => ReadonlySet<string>) => void;
  readonly setMenu: (place: MenuPlace) => void;
  readonly setDialog: (dialog: ClipDialog) => void;
  readonly hold: (clipId: string | null) => void;
}

/** What boxes of clips and heads of tracks ask of the timeline: the same objects for all and for good, answered by what holds when they ask, so that a
 * change of one draws no other. */
export function useHands({ view, scroller, now: holds, make, choose, setChosen, setChosenTracks, setMenu, setDialog, hold }: Wiring): {
  readonly clipHands: ClipHands;
  readonly trackHands: TrackHands;
} {
  const store = useProjectStore(),
    engine = useEngine(),
    now = useRef(holds);
  useEffect(() => {
    now.current = holds;
  });
  const clipHands = useMemo<ClipHands>(() => {
    const rowAt = (clientY: number): number => {
      const node = scroller.current;
      if (!node) return 0;
      let top = clientY - node.getBoundingClientRect().top + node.scrollTop - rulerHeight;
      const { rows: all } = now.current;
      for (const [index, track] of all.entries()) {
        top -= trackHeights[sizeOf(view.store.getState(), track.id)];
        if (top < 0) return index;
      }
      return all.length - 1;
    };
    return {
      choose,
      drop: (clipId, beats, toY, copies) => {
        const from = findClip(now.current.project, clipId)?.track,
          all = now.current.project.tracks,
          to = now.current.rows[rowAt(toY)];
        if (!from || !to) return;
        const tracks = all.indexOf(to) - all.findIndex(({ id }) => id === from.id);
        if (copies) now.current.acts.copyBy(beats, tracks);
        else if (beats !== 0 || tracks !== 0) now.current.acts.move(beats, tracks);
      },
      set: (clipId, changes) => {
        const track = findClip(now.current.project, clipId)?.track,
          wrong = track && store.edit({ kind: 'set-clip', clipId, trackId: track.id, changes });
        if (wrong) toast.error(wrong);
      },
      trimStart: (beats) => now.current.acts.trimStart(beats),
      lengthen: (beats) => now.current.acts.lengthen(beats),
      fade: (fades) => now.current.acts.fade(fades),
      press: (event) => pressOnClip(event, now.current.acts, now.current.stepBeats, setDialog),
      menu: (clipId, x, y) => setMenu({ clipId, x, y }),
      hold,
      beatPixels: () => view.store.getState().barPixels / now.current.bar,
    };
  }, [store, hold, view, scroller, choose, setMenu, setDialog]);
  const trackHands = useMemo<TrackHands>(
    () => ({
      choose: (trackId, adds) =>
        setChosenTracks((before) => {
          const next = new Set(adds ? before : []);
          if (!before.has(trackId)) next.add(trackId);
          else next.delete(trackId);
          return next;
        }),
      change: (trackId, changes) =>
        make(
          changeTracks(now.current.project, [trackId], () => changes),
          'It is gone.',
        ),
      hear: (trackId, changes) => {
        const { tracks, masterGainDb } = now.current.project;
        engine.hearLevels(
          tracks.map((each) => (each.id === trackId ? { ...each, ...changes } : each)),
          masterGainDb,
        );
      },
      move: (trackId, by) =>
        make(moveTrack(now.current.project, trackId, by), by < 0 ? 'It is the first already.' : 'It is the last already.'),
      duplicate: (trackId) => make(duplicateTrack(now.current.project, trackId, newId), 'It is gone.'),
      chooseClips: (trackId) => {
        const [first] = now.current.project.tracks.find(({ id }) => id === trackId)?.clips ?? [];
        setChosen(first ? clipsOfTrack(now.current.project, first.id) : []);
      },
      giveBack: (trackId) => {
        const asked = askedOfTracks(now.current.project, [trackId], engine.chosenRange);
        if (asked) askToGiveBack(asked);
        else toast('There is nothing on it.');
      },
      resize: (trackId, size) => {
        const { small } = view.store.getState();
        view.set({ small: size === 'small' ? [...small, trackId] : small.filter((id) => id !== trackId) });
      },
      remove: (trackId) => {
        const name = now.current.project.tracks.find(({ id }) => id === trackId)?.name ?? '';
        const wrong = store.edit({ kind: 'remove-track', trackId });
        if (wrong) return void toast.error(wrong);
        toast(`Removed the track “${name}”.`, { action: { label: 'Undo', onClick: store.undoOfLast() } });
      },
    }),
    [engine, make, store, view, setChosen, setChosenTracks],
  );
  return { clipHands, trackHands };
}
