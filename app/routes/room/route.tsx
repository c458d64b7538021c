import { memo, useCallback, useEffect, useState } from 'react';
import { Outlet, useNavigation, type ShouldRevalidateFunctionArgs } from 'react-router';
import { DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { AudioEngine } from '~/audio/engine';
import { EngineContext } from '~/audio/hooks';
import { useRenewal } from '~/ui/use-renewal';
import { PlaceContext, type PlaceRequest } from '~/ui/place';
import { useChangedLoops } from '~/ui/changed-loops';
import { live, useLive } from '~/ui/live';
import { toast, Toasts } from '~/ui/toast';
import { ProjectStoreContext, ProjectStore } from '~/ui/project-store';
import { roomProjectId, settleRoom } from '~server/http/room.server';
import { requirePerson } from '~server/http/session.server';
import { listProjects, openProject } from '~server/services/projects.server';
import { ownInstruments, setOwnInstruments } from '~core/theory/instruments';
import { benchLoopId, isOutside } from '~contracts/whole-loop';
import type { LoopCard } from '~contracts/loop-card';
import { roomOf } from '~contracts/room-address';
import { wholeLoops } from '~/ui/whole-loops';
import type { Route } from './+types/route';
import { PlaceDialog } from './place-dialog';
import { Ribbon } from './ribbon';
import { ShortcutsDialog } from './shortcuts-dialog';
import { TopBar } from './top-bar';
import { Tray } from './tray/tray';
import { Makings } from './makings';
import { useHearings } from './use-hearings';
import { useRemote } from './use-remote';
import { useRoomKeys } from './use-room-keys';

export async function loader({ request }: Route.LoaderArgs) {
  const person = await requirePerson(request);
  settleRoom(request, person);
  const id = roomProjectId(request, person),
    [open, projects] = await Promise.all([id === null ? null : openProject(id, person.id), listProjects()]);
  return { person, open, projects, instruments: ownInstruments() };
}

/** A step in a search changes nothing about the project or the person. */
export function shouldRevalidate({ currentUrl, nextUrl, formAction, defaultShouldRevalidate }: ShouldRevalidateFunctionArgs) {
  const searchOnly = formAction === undefined && currentUrl.pathname === nextUrl.pathname && currentUrl.search !== nextUrl.search;
  return searchOnly && roomOf(currentUrl) === roomOf(nextUrl) ? false : defaultShouldRevalidate;
}

/** The room: project ribbon on top, the page, the audition tray. The engine lives here and plays on from page to page. */
export default function Room({ loaderData }: Route.ComponentProps) {
  return <RoomPage loaderData={loaderData} />;
}

/** A step of the router alone draws none of it anew. */
const RoomPage = memo(function RoomPage({ loaderData }: Pick<Route.ComponentProps, 'loaderData'>) {
  // Before anything below asks what an instrument is called. The server knows them itself, and perhaps newer ones by now.
  if (typeof document !== 'undefined') setOwnInstruments(loaderData.instruments);
  const [engine] = useState(() => new AudioEngine()),
    [projectStore] = useState(() => {
      const made = new ProjectStore();
      made.load(loaderData.open);
      return made;
    });
  const [request, setRequest] = useState<PlaceRequest | null>(null),
    [helpOpen, setHelpOpen] = useState(false);
  const place = useCallback(
    (next: PlaceRequest) => {
      if (next.row.id === benchLoopId) return toast('This one is on the workbench. Save it into the library first, then place it.');
      if (isOutside(next.row.id)) return toast('This one is still outside. Take it into the library first, then place it.');
      const { candidate } = engine.store.getState(),
        found = candidate?.row.id === next.row.id ? { overrides: candidate.overrides, offsetBeats: candidate.offsetBeats } : {};
      setRequest({ ...found, ...next });
    },
    [engine],
  );
  useEffect(() => projectStore.load(loaderData.open), [projectStore, loaderData.open]);
  const openHelp = useCallback(() => setHelpOpen(true), []);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }), useSensor(KeyboardSensor));
  return (
    <EngineContext.Provider value={engine}>
      <ProjectStoreContext.Provider value={projectStore}>
        <PlaceContext.Provider value={place}>
          <DndContext
            id="room"
            sensors={sensors}
            onDragEnd={({ active, over, activatorEvent, delta }) => {
              const card = active.data.current?.row as LoopCard | undefined,
                beatAt = over?.data.current?.beatAt as ((clientX: number) => number) | undefined;
              if (!card || !over || !(activatorEvent instanceof PointerEvent)) return;
              const startBeat = beatAt?.(activatorEvent.clientX + delta.x),
                trackId = over.data.current?.trackId as string | undefined;
              void wholeLoops()
                .of(card)
                .then((row) => row && place({ row, startBeat, trackId }));
            }}
          >
            <a href="#page" className="btn btn-primary btn-sm absolute -top-20 left-2 z-50 focus:top-2">
              Skip to the page
            </a>
            <div className="flex h-dvh flex-col">
              <TopBar person={loaderData.person} projects={loaderData.projects} onHelp={openHelp} />
              <Ribbon />
              <main id="page" tabIndex={-1} className="relative min-h-0 flex-1 overflow-auto outline-none">
                <Outlet />
              </main>
              <Tray />
            </div>
            {request && <PlaceDialog key={`${request.row.id}-${request.startBeat}`} request={request} onClose={() => setRequest(null)} />}
            <ShortcutsDialog open={helpOpen} onClose={() => setHelpOpen(false)} />
            <Makings />
            <Wiring engine={engine} projectStore={projectStore} personId={loaderData.person.id} onHelp={openHelp} />
            <Toasts />
          </DndContext>
        </PlaceContext.Provider>
      </ProjectStoreContext.Provider>
    </EngineContext.Provider>
  );
});

interface Wired {
  readonly engine: AudioEngine;
  readonly projectStore: ProjectStore;
  readonly personId: number;
  readonly onHelp: () => void;
}

/**
 * The engine follows the projectStore; the pages follow what the server announces; keys and remotes are heard. It draws nothing: who asks the router
 * for anything is drawn anew with each of its steps.
 */
function Wiring({ engine, projectStore, personId, onHelp }: Wired): null {
  const renew = useRenewal(),
    isTurning = useNavigation().state !== 'idle';
  // It stands behind the page, whose own listeners are there by then.
  useEffect(() => (isTurning ? live.startTurn() : live.endTurn()), [isTurning]);
  // Who leaves the room leaves nothing that goes on collecting.
  useEffect(() => () => live.endTurn(), []);
  useRoomKeys(engine, projectStore, onHelp);
  useRemote(engine, personId);
  useHearings(engine, projectStore);
  // What was announced while the stream was broken, and is not known any more.
  useLive('missed', () => void renew());
  useLive('library', ({ loopIds }) => loopIds === null && void renew());
  useEffect(() => {
    const follow = () => {
      const { project, preview, loops } = projectStore.store.getState();
      engine.setProject(preview ?? project, new Map([...loops].map(([id, row]) => [id, row.source])));
    };
    follow();
    return projectStore.store.subscribe((state, before) => {
      if (state.project !== before.project || state.preview !== before.preview || state.loops !== before.loops) follow();
    });
  }, [engine, projectStore]);
  useLive('project', ({ projectId, revision }) => projectStore.heard(projectId, revision));
  useChangedLoops(
    (id) => projectStore.store.getState().loops.has(id),
    (rows) => projectStore.takeLoops(rows),
  );
  useEffect(() => {
    // For tests and the curious: the engine of this page.
    (window as unknown as { garnetfinch?: object }).garnetfinch = { engine, projectStore };
    document.documentElement.dataset.ready = 'yes';
  }, [engine, projectStore]);
  return null;
}
