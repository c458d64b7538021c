import { useEffect, useState } from 'react';
import type { LoopCard } from '~contracts/loop-card';
import { useProject } from '~/ui/project-store';
import { fetchOthers, othersAddress, othersInWords, type OthersFrom } from './siblings';

/** What may stand in for what a clip plays: the others to choose from, and what B, C, D … are. */
export interface Voice {
  readonly others: readonly LoopCard[];
  readonly cast: readonly number[];
}

export const noVoice: Voice = { others: [], cast: [] };

export const letters = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ';

/** One loop of those that are varied: A is what plays now, the others are chosen for it. @param places of the letters of the pattern, from 0 for A */
export function VaryVoice({
  loopId,
  times,
  places,
  voice,
  onChange,
}: {
  loopId: number;
  times: number;
  places: readonly number[];
  voice: Voice;
  onChange: (voice: Voice) => void;
}) {
  const projectId = useProject((state) => state.id) ?? 0,
    row = useProject((state) => state.loops.get(loopId)),
    [from, setFrom] = useState<OthersFrom>(row?.setId == null ? 'like' : 'set'),
    isThere = row !== undefined,
    address = row ? othersAddress(row, from, projectId) : null;
  useEffect(() => {
    if (!isThere) return;
    let gone = false;
    void fetchOthers(address, loopId).then((others) => {
      if (!gone) onChange({ others, cast: others.slice(0, 3).map(({ id }) => id) });
    });
    return () => {
      gone = true;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what it is told to does not change what is looked for
  }, [isThere, address, loopId]);
  return (
    <fieldset className="panel mt-3 grid gap-1 px-3 py-2">
      <legend className="px-1">
        <strong>A</strong> {row?.title ?? 'a loop that is gone'} <span className="quiet">· {times} times</span>
      </legend>
      <label className="flex items-center gap-2">
        <span className="caps w-14">Others</span>
        <select className="select select-sm flex-1" value={from} onChange={({ target }) => setFrom(target.value as OthersFrom)}>
          {(Object.keys(othersInWords) as OthersFrom[]).map((each) => (
            <option key={each} value={each} disabled={each === 'set' && row?.setId == null}>
              {othersInWords[each]}
            </option>
          ))}
        </select>
      </label>
      {places
        .filter((place) => place > 0)
        .map((place) => (
          <label key={place} className="flex items-center gap-2">
            <strong className="w-14">{letters[place]}</strong>
            <select
              className="select select-sm min-w-0 flex-1"
              aria-label={`What ${letters[place]} is instead of ${row?.title ?? 'it'}`}
              value={voice.cast[place - 1] ?? ''}
              onChange={({ target }) => {
                const cast = [...voice.cast];
                cast[place - 1] = Number(target.value);
                onChange({ ...voice, cast });
              }}
            >
              {voice.others.length === 0 && <option value="">none found: it stays as it is</option>}
              {voice.others.map((card) => (
                <option key={card.id} value={card.id}>
                  {card.title}
                </option>
              ))}
            </select>
          </label>
        ))}
    </fieldset>
  );
}
