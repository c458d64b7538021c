import { formatDistanceToNowStrict } from 'date-fns';
import { Pause, Play } from 'lucide-react';
import { useRevalidator } from 'react-router';
import { noOverrides } from '~core/arrangement/fit-settings';
import { useEngine, useEngineState } from '~/audio/hooks';
import { FamilyMark } from '~/ui/family-mark';
import { instrumentText, keyText, tempoText } from '~/ui/format';
import { usePlace } from '~/ui/place';
import { RoomLink } from '~/ui/room-link';
import { Waveform } from '~/ui/waveform';
import { requirePerson } from '~server/http/session.server';
import { listHeard, type HeardLine } from '~server/services/heard.server';
import type { Route } from './+types/route';

export const meta: Route.MetaFunction = () => [{ title: 'Heard · Garnetfinch' }];

export async function loader({ request }: Route.LoaderArgs) {
  const person = await requirePerson(request);
  return { heard: await listHeard(person.id) };
}

/** What was done to it, in few words; '' for nothing. */
function doneTo({ overrides, offsetBeats }: HeardLine): string {
  const { speedRatio = 1, shiftSemitones = 0, reverse = false, firstBars = null, stretchMode = null } = overrides;
  return [
    shiftSemitones !== 0 && `${shiftSemitones > 0 ? 'up' : 'down'} ${Math.abs(shiftSemitones)}`,
    speedRatio !== 1 && `${speedRatio} × as fast`,
    reverse && 'backwards',
    firstBars !== null && `its first ${firstBars === 1 ? 'bar' : `${firstBars} bars`}`,
    offsetBeats !== 0 && `begun ${offsetBeats} beats in`,
    stretchMode !== null && `stretched as ${stretchMode}`,
  ]
    .filter(Boolean)
    .join(', ');
}

/** What one has heard, the latest first: back to any of it, as it was. */
export default function Heard({ loaderData: { heard } }: Route.ComponentProps) {
  const engine = useEngine(),
    place = usePlace(),
    { revalidate } = useRevalidator(),
    soundingId = useEngineState((state) => (state.shortlist.blind ? null : (state.candidate?.row.id ?? null)));
  const hear = ({ row, overrides, offsetBeats }: HeardLine) => {
    if (soundingId === row.id) engine.audition.stop();
    else void engine.audition.hear({ row, overrides: { ...noOverrides, ...overrides }, offsetBeats });
  };
  return (
    <div className="mx-auto max-w-5xl p-5">
      <div className="flex items-baseline gap-4">
        <h1>What I heard</h1>
        <p className="quiet flex-1">the latest first, each as it was heard</p>
        <button className="btn btn-sm" onClick={() => void revalidate()}>
          Look again
        </button>
      </div>
      {heard.length === 0 ? (
        <p className="quiet mt-6">Nothing yet. What is heard for more than a moment is kept here.</p>
      ) : (
        <ul className="mt-3 divide-y divide-base-300 border-y border-base-300">
          {heard.map((line) => {
            const { id, row, projectId, projectName, at, overrides, offsetBeats } = line,
              Icon = soundingId === row.id ? Pause : Play,
              done = doneTo(line);
            return (
              <li key={id} className="flex items-center gap-3 py-1.5">
                <button
                  className="btn btn-sm btn-square"
                  aria-label={`${soundingId === row.id ? 'Silence' : 'Hear'} ${row.title}`}
                  onClick={() => hear(line)}
                >
                  <Icon className="size-4" fill="currentColor" />
                </button>
                <Waveform overview={row.overview} beats={row.source.beats ?? 0} barBeats={row.source.barBeats} className="h-8 w-28" />
                <FamilyMark family={row.source.family} />
                <span className="min-w-0 flex-1">
                  <RoomLink to={`/loops/${row.id}`} className="link max-w-full truncate font-semibold">
                    {row.title}
                  </RoomLink>
                  <span className="quiet block truncate">
                    {[instrumentText(row.source), row.source.tempoBpm !== null && tempoText(row.source.tempoBpm), keyText(row.source), done]
                      .filter(Boolean)
                      .join(' · ')}
                  </span>
                </span>
                <span className="w-60 text-right">
                  {projectId === null ? (
                    <span className="quiet">alone</span>
                  ) : (
                    <RoomLink to={`/projects/${projectId}`} className="link max-w-full truncate">
                      {projectName}
                    </RoomLink>
                  )}
                  <span className="quiet block" suppressHydrationWarning>
                    {formatDistanceToNowStrict(new Date(at))} ago
                  </span>
                </span>
                <button className="btn btn-sm" onClick={() => place({ row, overrides: { ...noOverrides, ...overrides }, offsetBeats })}>
                  Place …
                </button>
              </li>
            );
          })}
        </ul>
      )}
    </div>
  );
}
