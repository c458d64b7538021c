import { Pause, Play } from 'lucide-react';
import type { WholeLoop } from '~contracts/whole-loop';
import { useEngine, useEngineState } from '~/audio/hooks';
import { api } from '~/ui/api';
import type { Fields } from '~/ui/ask';
import { FamilyMark } from '~/ui/family-mark';
import { instrumentText, keyText, secondsText, tempoText } from '~/ui/format';
import { RoomLink } from '~/ui/room-link';
import { toast } from '~/ui/toast';
import { useSend } from '~/ui/use-send';
import { Waveform } from '~/ui/waveform';
import { countParam } from '~server/http/input.server';
import { requirePerson } from '~server/http/session.server';
import { countTwins, listTwins } from '~server/services/twins.server';
import type { Route } from './+types/route';

export const meta: Route.MetaFunction = () => [{ title: 'Same sound twice · Garnetfinch' }];

const atOnce = 30;

export async function loader({ request }: Route.LoaderArgs) {
  const person = await requirePerson(request),
    shown = countParam(new URL(request.url).searchParams.get('show'), atOnce, 2000),
    [twins, total] = await Promise.all([listTwins(person.id, shown), countTwins()]);
  return { twins, total };
}

export default function TwinsPage({ loaderData: { twins, total } }: Route.ComponentProps) {
  const send = useSend(),
    decide = async (id: number, fields: Fields, words: string) => {
      if (await send(api.twins(id), 'put', fields))
        toast(words, { action: { label: 'Undo', onClick: () => void send(api.twins(id), 'delete') } });
    };
  return (
    <div className="mx-auto max-w-6xl p-6">
      <h1>Same sound twice</h1>
      <p className="quiet mt-1 max-w-3xl">
        Their files differ, by coding, level, tags or a little silence; what is heard is the same. Keep one: tags, stars, notes, places in
        collections and what people said go to it, the other is archived, and projects that use it go on sounding.
      </p>
      {twins.length === 0 && (
        <p className="mt-4">
          Nothing sounds the same twice.{' '}
          <RoomLink to="/packs" className="link">
            Back to the packs
          </RoomLink>
        </p>
      )}
      <ul className="mt-4 flex flex-col gap-3">
        {twins.map(({ id, first, second, differing }) => (
          <li key={id} className="panel p-3" data-twins={id}>
            <div className="grid gap-3 md:grid-cols-2">
              {[first, second].map((row) => (
                <Side
                  key={row.id}
                  row={row}
                  onKeep={() => void decide(id, { keptId: row.id }, `Kept “${row.title}” of ${row.packName}.`)}
                />
              ))}
            </div>
            <div className="mt-2 flex items-center justify-between gap-3">
              <span className="quiet">
                {differing < 0.08 ? 'as good as certain' : differing < 0.2 ? 'very likely' : 'likely: listen to both'}
              </span>
              <button className="btn btn-sm" onClick={() => void decide(id, {}, 'They are two.')}>
                They are two
              </button>
            </div>
          </li>
        ))}
      </ul>
      {twins.length < total && (
        <RoomLink to={`?show=${twins.length + atOnce}`} preventScrollReset className="btn btn-sm mt-3">
          Show more of {total}
        </RoomLink>
      )}
    </div>
  );
}

/** One of the two, heard in its place by a click. */
function Side({ row, onKeep }: { row: WholeLoop; onKeep: () => void }) {
  const engine = useEngine(),
    sounding = useEngineState((state) => state.candidate?.row.id === row.id),
    Icon = sounding ? Pause : Play;
  return (
    <div className={`flex items-center gap-3 rounded-sm p-1.5 ${sounding ? 'bg-base-300' : ''}`}>
      <button
        className="btn btn-ghost btn-sm btn-square"
        aria-label={sounding ? `Silence ${row.title} of ${row.packName}` : `Hear ${row.title} of ${row.packName}`}
        onClick={() => engine.audition.toggle(row)}
      >
        <Icon className="size-4" fill="currentColor" />
      </button>
      <span className="w-28 shrink-0">
        <Waveform
          overview={row.overview}
          beats={row.source.beats ?? 0}
          barBeats={row.source.barBeats}
          className="h-10 w-full"
          ink={sounding ? '--playhead' : '--wave'}
        />
      </span>
      <span className="min-w-0 flex-1">
        <span className="flex items-center gap-1.5">
          <FamilyMark family={row.source.family} />
          <RoomLink to={`/loops/${row.id}`} className="truncate font-semibold hover:underline">
            {row.title}
          </RoomLink>
        </span>
        <span className="quiet block truncate">
          {row.fileName} · {row.packName}
        </span>
        <span className="quiet block truncate text-[0.82rem]">
          {[
            instrumentText(row.source),
            row.source.tempoBpm === null ? null : tempoText(row.source.tempoBpm),
            keyText(row.source),
            secondsText(row.lengthSeconds),
          ]
            .filter(Boolean)
            .join(' · ')}
        </span>
      </span>
      <button className="btn btn-sm btn-primary" aria-label={`Keep ${row.title} of ${row.packName}`} onClick={onKeep}>
        Keep
      </button>
    </div>
  );
}
