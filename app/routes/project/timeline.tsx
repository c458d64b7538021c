import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useDndMonitor } from '@dnd-kit/core';
import { useStore } from 'zustand';
import { Plus } from 'lucide-react';
import { RoomLink } from '~/ui/room-link';
import { moveTrackTo } from '~core/arrangement/acts/clips';
import type { Edit } from '~core/arrangement/edit';
import { gridBeats } from '~core/arrangement/grid';
import { newPatternClip } from '~core/arrangement/acts/patterns';
import { audibleTracks, findClip, newTrack, patternOf, projectEndBeat, trackColourCount, type Project } from '~core/arrangement/tree';
import { beatsPerBar } from '~core/units/time';
import { useEngine, useFrame } from '~/audio/hooks';
import { MovingHead } from '~/ui/moving-head';
import { newId } from '~/ui/new-id';
import { api } from '~/ui/api';
import type { BarNote } from '~contracts/project-room';
import { useProject, useProjectStore } from '~/ui/project-store';
import { toast } from '~/ui/toast';
import { AsideTracks } from './aside-tracks';
import { ClipActs } from './clip-acts';
import type { Choosing } from './clip-box';
import type { ClipDialog } from './clip-keys';
import { ClipDialogs } from './clip-dialogs';
import { askToGiveBack, giveBackAsked } from './give-back';
import { GiveBackDialog } from './give-back-dialog';
import { ClipMenu, type MenuPlace } from './clip-menu';
import { ClipPanel } from './clip-panel';
import { ChordLane, chordLaneHeight } from './harmony/chord-lane';
import { HarmonyPanel } from './harmony/harmony-panel';
import { headWidth, rulerHeight, trackHeights } from './measures';
import { NotesEditor } from './notes/notes-editor';
import { useOpening, type NotesOpen } from './notes/use-opening';
import { Ruler } from './ruler';
import { TimelineTools } from './timeline-tools';
import { TrackActs } from './track-acts';
import { TrackRow } from './track-row';
import { useClipActs } from './use-acts';
import { useAsked } from './use-asked';
import { useHands } from './use-hands';
import { usePresence } from './use-presence';
import { useBand } from './use-band';
import { useSetting, useThere } from './use-shown';
import { sizeOf, TimelineView } from './timeline-view';

const nothing: ReadonlySet<string> = new Set(),
  noNotes: readonly BarNote[] = [];

/** Tracks and clips on bars. */
export function Timeline({ projectId, project }: { projectId: number; project: Project }) {
  const engine = useEngine(),
    store = useProjectStore(),
    loops = useProject((state) => state.loops),
    // What is heard for a while without being kept is shown in its place.
    preview = useProject((state) => state.preview),
    shown = preview ?? project,
    [chosen, setChosen] = useState<readonly string[]>([]),
    [chosenTracks, setChosenTracks] = useState<ReadonlySet<string>>(nothing),
    [drawer, setDrawer] = useState<'harmony' | NotesOpen | null>(null),
    [menu, setMenu] = useState<MenuPlace | null>(null),
    [dialog, setDialog] = useState<ClipDialog | null>(null),
    askedBack = useStore(giveBackAsked, ({ asked }) => asked),
    scroller = useRef<HTMLDivElement>(null);
  const bar = beatsPerBar(project.meter),
    [view] = useState(() => new TimelineView(projectId)),
    look = useStore(view.store),
    beatPixels = look.barPixels / bar,
    stepBeats = gridBeats(look.grid, bar),
    // By steps, so that lanes seldom become longer.
    bars = Math.ceil((Math.ceil(Math.max(projectEndBeat(project), projectEndBeat(shown)) / bar) + 8) / 32) * 32,
    width = bars * look.barPixels,
    setting = useSetting(shown),
    rows = useMemo(() => shown.tracks.filter((track) => !track.setAside), [shown.tracks]),
    audible = useMemo(() => new Set(audibleTracks(shown).map((track) => track.id)), [shown]);
  const { heldBy, hold } = usePresence(projectId);
  useFrame(() => {
    if (look.follows && engine.store.getState().playing) view.keepInView(engine.positionBeat() * beatPixels);
  });
  const { there, chosenSet, clipsChosen } = useThere(project, chosen),
    acts = useClipActs(project, there);
  const choose = useCallback(
    (clipId: string, how: Choosing) =>
      setChosen((now) => {
        const others = now.filter((id) => id !== clipId),
          isIn = others.length < now.length;
        if (how === 'leave') return others;
        if (how === 'alone') return isIn && others.length === 0 ? now : [clipId];
        if (isIn) return now;
        return how === 'add' ? [...now, clipId] : [clipId];
      }),
    [],
  );
  const open = useOpening(project, there, setChosen, setDrawer, setDialog);
  const make = useCallback(
      (edit: Edit | null, otherwise: string) => {
        const wrong = edit ? store.edit(edit) : otherwise;
        if (wrong) toast(wrong);
      },
      [store],
    ),
    { clipHands, trackHands } = useHands({
      view,
      scroller,
      now: { acts, project, rows, stepBeats, bar },
      make,
      choose,
      setChosen,
      setChosenTracks,
      setMenu,
      setDialog: open,
      hold,
    }),
    notes = useAsked<{ notes: readonly BarNote[] }>(projectId, api.projectNotes(projectId))?.notes ?? noNotes;
  useDndMonitor({
    onDragEnd: ({ active, over }) => {
      const moved = active.data.current?.trackId as string | undefined,
        onto = over?.data.current?.trackId as string | undefined;
      if (moved === undefined || onto === undefined || moved === onto) return;
      make(
        moveTrackTo(
          project,
          moved,
          project.tracks.findIndex(({ id }) => id === onto),
        ),
        'It is there already.',
      );
    },
  });
  const band = useBand(scroller, (under, adds) => setChosen((before) => (adds ? [...new Set([...before, ...under])] : under)));
  const editing = typeof drawer === 'object' && drawer ? findClip(project, drawer.clipId) : null,
    pattern = editing && patternOf(project, editing.clip),
    barHere = () => Math.max(0, Math.round(engine.positionBeat() / bar) * bar);
  const newNotes = (isDrums: boolean) => {
    const range = engine.chosenRange,
      made = newPatternClip(
        project,
        `${isDrums ? 'Drums' : 'Notes'} ${project.patterns.length + 1}`,
        {
          trackId: null,
          startBeat: range?.startBeat ?? barHere(),
          lengthBeats: range ? range.endBeat - range.startBeat : 4 * bar,
          isDrums,
        },
        newId,
      );
    make(made.edit, '');
    setChosen([made.clipId]);
    setDrawer({ clipId: made.clipId });
  };
  const addTrack = () =>
    make(
      {
        kind: 'add-track',
        index: project.tracks.length,
        track: newTrack({ id: newId(), name: `Track ${project.tracks.length + 1}`, colour: project.tracks.length % trackColourCount }),
      },
      '',
    );
  const extent = (): readonly [number, number] => {
    const clips = project.tracks.flatMap((track) => track.clips).filter(({ id }) => there.length === 0 || chosenSet.has(id));
    return [
      Math.min(...clips.map(({ startBeat }) => startBeat)),
      Math.max(...clips.map(({ startBeat, lengthBeats }) => startBeat + lengthBeats)),
    ];
  };
  const zoomToChosen = () =>
      view.zoomTo(
        ...(engine.chosenRange && there.length === 0 ? ([engine.chosenRange.startBeat, engine.chosenRange.endBeat] as const) : extent()),
      ),
    zoomToAll = () => view.zoomTo(0, Math.max(bar, projectEndBeat(project)));
  const isEmpty = project.tracks.length === 0;
  const editedTrackId = editing?.track.id ?? null;
  // What is edited stays in view above its editor.
  useEffect(() => {
    const row = rows.findIndex(({ id }) => id === editedTrackId);
    if (row >= 0) scroller.current?.scrollTo({ top: rows.slice(0, row).reduce((sum, { id }) => sum + trackHeights[sizeOf(look, id)], 0) });
    // Once for each clip that is opened: afterwards one scrolls as one likes.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [editedTrackId]);
  // What the browser keeps is not there while the server draws.
  useEffect(() => view.recall(), [view]);
  useEffect(() => view.measureBy(bar), [view, bar]);
  useEffect(() => (scroller.current ? view.attach(scroller.current) : undefined), [view, isEmpty]);
  useEffect(() => view.settle(), [view, look.barPixels]);
  if (isEmpty)
    return (
      <div className="flex min-h-0 flex-1 flex-col items-center justify-center gap-2 text-center">
        <p className="text-lg font-semibold">Nothing placed yet.</p>
        <p className="quiet max-w-md">Find a loop in the library, hear it, press Enter: it lands here on its own track.</p>
        <span className="mt-1 flex gap-2">
          <RoomLink to="/" className="btn btn-primary btn-sm">
            To the library
          </RoomLink>
          <button className="btn btn-sm" onClick={addTrack}>
            An empty track
          </button>
        </span>
      </div>
    );
  const tops = rows.reduce<readonly number[]>(
    (all, track, k) => [...all, all[k] + trackHeights[sizeOf(look, track.id)]],
    [rulerHeight + chordLaneHeight],
  );
  return (
    <>
      {preview && (
        <p role="status" className="shrink-0 bg-accent px-3 py-0.5 text-[0.93rem] text-accent-content">
          What is heard and shown now is not kept.
        </p>
      )}
      <TimelineTools
        project={project}
        projectId={projectId}
        view={view}
        look={look}
        notes={notes}
        onZoomToChosen={zoomToChosen}
        onZoomToAll={zoomToAll}
        isHarmonyOpen={drawer === 'harmony'}
        onHarmony={() => setDrawer(drawer === 'harmony' ? null : 'harmony')}
      />
      <div
        ref={scroller}
        className="relative min-h-0 flex-1 overflow-auto"
        tabIndex={-1}
        {...band.handlers}
        onKeyDown={(event) => {
          if (!event.currentTarget.contains(event.target as Node) || (event.target as HTMLElement).closest('input, textarea, select'))
            return;
          const control = event.ctrlKey || event.metaKey,
            pressed = event.key.toLowerCase();
          if (control && pressed === 'a') setChosen(rows.flatMap((track) => track.clips.map(({ id }) => id)));
          else if (control || event.altKey) return;
          else if (pressed === 'z') (event.shiftKey ? zoomToAll : zoomToChosen)();
          else if (event.key === '+') view.zoomBy(1.25);
          else if (event.key === '-') view.zoomBy(0.8);
          else if (event.key === 'Escape') {
            setChosen([]);
            // What had the focus would still be meant by the next key, and is chosen no longer.
            event.currentTarget.focus();
          } else return;
          event.preventDefault();
          event.stopPropagation();
        }}
      >
        <div className="relative" style={{ width: headWidth + width }}>
          <div className="sticky top-0 z-20 flex border-b border-base-300 bg-base-200" style={{ height: rulerHeight }}>
            <span className="caps sticky left-0 z-10 flex items-end bg-base-200 px-3 pb-0.5" style={{ width: headWidth }}>
              {rows.length} {rows.length === 1 ? 'track' : 'tracks'}
            </span>
            <Ruler project={project} bars={bars} barBeats={bar} look={look} notes={notes} onChooseClips={setChosen} />
          </div>
          <div className="sticky z-20 flex border-b border-base-300 bg-base-200" style={{ top: rulerHeight, height: chordLaneHeight }}>
            <span
              className="caps sticky left-0 z-10 flex items-center border-t border-base-300 bg-base-200 px-3"
              style={{ width: headWidth }}
            >
              Chords
            </span>
            <span className="min-w-0 flex-1">
              <ChordLane project={shown} look={look} stepBeats={stepBeats} />
            </span>
          </div>
          {rows.map((track, row) => {
            const isNear = tops[row + 1] > look.drawn.fromY && tops[row] < look.drawn.toY;
            // What is far above or below only keeps its place.
            return isNear ? (
              <TrackRow
                key={track.id}
                track={track}
                loops={loops}
                patterns={shown.patterns}
                setting={setting}
                audible={audible.has(track.id)}
                barBeats={bar}
                width={width}
                look={look}
                stepBeats={stepBeats}
                isChosen={chosenTracks.has(track.id)}
                chosen={chosenSet}
                heldBy={heldBy}
                clipHands={clipHands}
                trackHands={trackHands}
                onChooseNone={() => setChosen([])}
              />
            ) : (
              <div key={track.id} style={{ height: tops[row + 1] - tops[row] }} role="group" aria-label={`Track ${track.name}`} />
            );
          })}
          <div className="sticky left-0 px-3 py-1.5" style={{ width: headWidth }}>
            <span className="flex gap-1">
              <button className="btn btn-xs" onClick={addTrack}>
                <Plus className="size-3.5" aria-hidden="true" /> Add a track
              </button>
              <button className="btn btn-xs" title="A pattern of notes at the playhead, or over the range" onClick={() => newNotes(false)}>
                <Plus className="size-3.5" aria-hidden="true" /> New notes
              </button>
              <button className="btn btn-xs" title="A pattern of drums at the playhead, or over the range" onClick={() => newNotes(true)}>
                <Plus className="size-3.5" aria-hidden="true" /> New drums
              </button>
            </span>
          </div>
          <AsideTracks tracks={project.tracks} onBack={(trackId) => trackHands.change(trackId, { setAside: false })} />
          <MovingHead at={() => engine.positionBeat()} beatPixels={beatPixels} offsetPixels={headWidth} className="z-5 w-0.5" />
        </div>
      </div>
      {band.shown}
      {askedBack && <GiveBackDialog projectId={projectId} project={project} asked={askedBack} onClose={() => askToGiveBack(null)} />}
      <TrackActs
        project={project}
        chosen={chosenTracks}
        onMake={make}
        onChooseNone={() => setChosenTracks(nothing)}
        onChooseClips={setChosen}
      />
      {there.length > 0 && !(editing && pattern) && <ClipActs count={there.length} acts={acts} onOpen={open} />}
      {drawer === 'harmony' && (
        <HarmonyPanel project={project} chosenClipIds={there} onChooseClips={setChosen} onClose={() => setDrawer(null)} />
      )}
      {editing && pattern && (
        <NotesEditor
          key={pattern.id}
          project={project}
          track={editing.track}
          clip={editing.clip}
          pattern={pattern}
          doubted={typeof drawer === 'object' ? drawer?.doubted : undefined}
          onClose={() => setDrawer(null)}
        />
      )}
      {clipsChosen.length > 0 && !(editing && pattern) && (
        <ClipPanel project={project} clips={clipsChosen} acts={acts} onClose={() => setChosen([])} />
      )}
      {menu && <ClipMenu place={menu} acts={acts} onOpen={open} onClose={() => setMenu(null)} />}
      {dialog && there.length > 0 && (
        <ClipDialogs dialog={dialog} projectId={projectId} project={project} chosen={there} acts={acts} onClose={() => setDialog(null)} />
      )}
    </>
  );
}
