import { useEffect, useState } from 'react';
import { ChevronLeft, ChevronRight, EyeOff, ListPlus, Play, Square, VolumeX } from 'lucide-react';
import { Link } from 'react-router';
import { shortlistPlaces } from '~/audio/shortlist';
import { api } from '~/ui/api';
import { askOrTell, withForm } from '~/ui/ask';
import { live, useLive } from '~/ui/live';
import { Toasts } from '~/ui/toast';
import { requirePerson } from '~server/http/session.server';
import type { RemoteCommand, RoomState } from '~contracts/remote';
import type { Route } from './+types/route';

export const meta: Route.MetaFunction = () => [{ title: 'Remote · Garnetfinch' }];

export async function loader({ request }: Route.LoaderArgs) {
  const { id, name } = await requirePerson(request);
  return { id, name };
}

const send = (command: RemoteCommand): void => {
  void askOrTell(api.remote, withForm('post', { command }));
};

/** A second browser of the same person, held in the hand: the room far away does what is pressed here. */
export default function Remote({ loaderData: { name } }: Route.ComponentProps) {
  const [room, setRoom] = useState<RoomState | null>(null);
  useLive('remote-room', (event) => setRoom(event.room));
  useEffect(() => live.whenOpen(() => send('hello')), []);
  useEffect(() => {
    document.documentElement.dataset.ready = 'yes';
  }, []);
  const full = room !== null && room.shortlist.length >= shortlistPlaces && room.digit === null;
  return (
    <main className="mx-auto flex min-h-dvh max-w-md flex-col gap-4 p-4">
      <header className="flex items-center gap-2">
        <img src="/mark.svg" alt="" className="size-6" />
        <h1 className="text-lg">Remote of {name}</h1>
        <Link to="/" className="link ml-auto">
          to the room
        </Link>
      </header>
      {room === null ? (
        <p className="quiet">
          No room answers. Open the library on the computer that plays, signed in as {name}, and click anything there once.
        </p>
      ) : (
        <>
          <div className="panel p-4" role="status" aria-live="polite">
            <p className="text-2xl font-semibold break-words">{room.title ?? 'Nothing is being heard'}</p>
            <p className="quiet mt-1">{room.title ? room.words : 'Next begins the list that is open in the room.'}</p>
            {room.facts && <p className="mt-2 border-t border-base-300 pt-2">{room.facts}</p>}
          </div>
          <div className="grid grid-cols-2 gap-3">
            <button
              className="btn btn-primary h-20 text-lg"
              disabled={full}
              onClick={() => send(room.ticket === null ? 'keep' : `keep-${room.ticket}`)}
            >
              <ListPlus className="size-6" /> Keep
            </button>
            <button className="btn h-20 text-lg" onClick={() => send('skip')}>
              Next <ChevronRight className="size-6" />
            </button>
            <button className="btn h-14" onClick={() => send('play')}>
              {room.playing ? <Square className="size-5" fill="currentColor" /> : <Play className="size-5" fill="currentColor" />}
              {room.playing ? 'Stop' : 'Play'}
            </button>
            <button className="btn h-14" onClick={() => send('back')}>
              <ChevronLeft className="size-5" /> The one before
            </button>
            <button
              className={`btn h-14 ${room.handsFree ? 'btn-neutral' : ''}`}
              aria-pressed={room.handsFree}
              onClick={() => send('hands-free')}
            >
              Hands-free
            </button>
            <button className="btn h-14" onClick={() => send('silence')}>
              <VolumeX className="size-5" /> Silence
            </button>
          </div>
          {full && <p role="status">The shortlist is full. Drop one in the room to keep more.</p>}
          {room.shortlist.length === 0 ? (
            <p className="quiet">What you keep is listed here; a tap brings it in on the bar.</p>
          ) : (
            <section aria-label="Shortlist" className="flex flex-col gap-2">
              {room.shortlist.map((title, k) => (
                <button
                  key={k}
                  className={`btn h-12 justify-start ${room.digit === k + 1 ? 'btn-primary' : ''}`}
                  aria-pressed={room.digit === k + 1}
                  onClick={() => send(`digit-${k + 1}`)}
                >
                  <kbd className="w-6 tabular-nums">{k + 1}</kbd>
                  <span className="truncate">{title}</span>
                </button>
              ))}
              {room.shortlist.length > 1 && (
                <button className={`btn h-12 ${room.blind ? 'btn-neutral' : ''}`} aria-pressed={room.blind} onClick={() => send('blind')}>
                  <EyeOff className="size-5" /> {room.blind ? 'Reveal' : 'Blind'}
                </button>
              )}
            </section>
          )}
        </>
      )}
      <Toasts />
    </main>
  );
}
