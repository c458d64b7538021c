import { useState } from 'react';
import { ExternalLink, Pause, Play } from 'lucide-react';
import type { OutsideLine } from '~contracts/outside';
import type { WholeLoop } from '~contracts/whole-loop';
import type { Project } from '~core/arrangement/tree';
import { useEngine, useEngineState } from '~/audio/hooks';
import { api } from '~/ui/api';
import { askOrTell, withForm } from '~/ui/ask';
import { barsText, keyText, shiftText, signed, stretchPercent, tempoText } from '~/ui/format';
import { RoomLink } from '~/ui/room-link';
import { Waveform } from '~/ui/waveform';

interface Props {
  readonly loop: OutsideLine;
  readonly project: Project | null;
  readonly chosen: boolean;
  readonly onChoose: () => void;
  readonly onTake: () => void;
  readonly onTakePack: () => void;
}

/** Fetches a preview, and gives it as a loop that the engine plays. */
async function fetchHeard({ source, id }: OutsideLine): Promise<WholeLoop | null> {
  const asked = withForm('post', { id }),
    found = await askOrTell<{ row: WholeLoop }>(api.exchangeHeard(source), asked, 'It could not be fetched. Please try again.');
  return found?.row ?? null;
}

/** A loop outside: heard over the project before it is taken, with what would be done to it. Once heard, the ear's findings are shown. */
export function OutsideRow({ loop, project, chosen, onChoose, onTake, onTakePack }: Props) {
  const engine = useEngine(),
    [heard, setHeard] = useState<WholeLoop | null>(null),
    [isFetching, setFetching] = useState(false),
    sounding = useEngineState((state) => heard !== null && state.candidate?.row.id === heard.id);
  const facts = heard?.source ?? { tempoBpm: loop.tempoBpm, key: loop.key, pitched: loop.key === null ? null : true, family: null },
    stretch = project ? stretchPercent(facts, project.tempoBpm) : null,
    shift = project ? shiftText(facts, project.key) : null,
    doing = [
      stretch === null ? null : Math.abs(stretch) < 0.05 ? 'tempo fits' : `${signed(stretch, 1)} %`,
      shift === null ? null : shift === 'fits' ? 'key fits' : shift,
    ].filter(Boolean);
  const hear = async () => {
    await engine.open();
    let row = heard;
    if (!row) {
      setFetching(true);
      row = await fetchHeard(loop);
      setFetching(false);
      setHeard(row);
    }
    if (row) engine.audition.toggle(row);
  };
  const Icon = sounding ? Pause : Play;
  return (
    <li className={`flex items-center gap-3 py-1.5 ${sounding ? 'bg-base-300' : ''}`}>
      {loop.loopId === null ? (
        <input
          type="checkbox"
          className="checkbox checkbox-sm ml-1"
          checked={chosen}
          onChange={onChoose}
          aria-label={`Choose ${loop.title}`}
        />
      ) : (
        <span className="ml-1 w-5" />
      )}
      <button
        className="btn btn-ghost btn-sm btn-square"
        aria-label={sounding ? `Silence ${loop.title}` : `Hear ${loop.title}`}
        disabled={isFetching}
        onClick={() => void hear()}
      >
        {isFetching ? <span className="loading loading-spinner loading-xs" /> : <Icon className="size-4" fill="currentColor" />}
      </button>
      <span className="w-22 shrink-0">
        {heard ? (
          <Waveform
            overview={heard.overview}
            beats={heard.source.beats ?? 0}
            barBeats={heard.source.barBeats}
            className="h-8 w-full"
            ink={sounding ? '--playhead' : '--wave'}
          />
        ) : (
          <span className="quiet text-[0.79rem]">{isFetching ? 'fetching …' : '—'}</span>
        )}
      </span>
      <span className="min-w-0 flex-1">
        <span className="flex items-baseline gap-2">
          <span className="truncate font-medium">{loop.title}</span>
          <a
            href={loop.pageUrl}
            target="_blank"
            rel="noreferrer"
            className="link shrink-0"
            aria-label={`Page of ${loop.title} on the exchange`}
          >
            <ExternalLink className="size-3.5" />
          </a>
        </span>
        <span className="quiet block truncate text-[0.79rem]" title={loop.licence}>
          {loop.author} · {loop.licence}
        </span>
      </span>
      <span className="w-18 shrink-0">
        <span className="block">{facts.tempoBpm === null ? 'tempo ?' : tempoText(facts.tempoBpm)}</span>
        <span className="quiet block text-[0.79rem]">{loop.bars === null ? '' : `${barsText(loop.bars)} bars`}</span>
      </span>
      <span className="w-28 shrink-0">
        <span className="block truncate">
          {heard ? keyText(heard.source) : loop.key ? keyText({ key: loop.key, pitched: true }) : 'key ?'}
        </span>
        <span
          className={`block truncate text-[0.79rem] ${stretch !== null && Math.abs(stretch) > 15 ? 'text-warning font-semibold' : 'quiet'}`}
        >
          {doing.join(', ')}
        </span>
      </span>
      <span className="flex w-36 shrink-0 justify-end gap-1">
        {loop.loopId === null ? (
          <>
            <button className="btn btn-sm" onClick={onTake} aria-label={`Take ${loop.title}`}>
              Take
            </button>
            <button className="btn btn-ghost btn-sm" onClick={onTakePack} aria-label={`Its pack: take all that ${loop.title} came with`}>
              Its pack
            </button>
          </>
        ) : (
          <RoomLink to={`/loops/${loop.loopId}`} className="link">
            in the library
          </RoomLink>
        )}
      </span>
    </li>
  );
}
