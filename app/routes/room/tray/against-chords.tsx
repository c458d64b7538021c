import { useEffect, useMemo, useState } from 'react';
import { barsAgainstChords, clashFrom } from '~core/arrangement/clash';
import { keyAt } from '~core/arrangement/harmony/harmony';
import { pitchClassName } from '~core/theory/key';
import { useEngine, useFrame } from '~/audio/hooks';
import type { Candidate } from '~/audio/store';
import { isOutside } from '~contracts/whole-loop';
import { ask } from '~/ui/ask';
import { useProject } from '~/ui/project-store';

const known = new Map<number, Promise<readonly (readonly number[])[]>>();
const kept = 64;

function notesOf(loopId: number): Promise<readonly (readonly number[])[]> {
  if (isOutside(loopId)) return Promise.resolve([]);
  let found = known.get(loopId);
  if (!found) {
    found = ask<{ bars: number[][] }>(`/api/v1/loops/${loopId}/notes`).then((asked) => {
      if (asked.ok) return asked.answer.bars;
      known.delete(loopId);
      return [];
    });
    known.set(loopId, found);
    if (known.size > kept) known.delete(known.keys().next().value as number);
  }
  return found;
}

/** Over the candidate's waveform: the chords of the project that each of its bars meets, and where its notes rub against them. */
export function AgainstChords({ candidate }: { candidate: Candidate }) {
  const engine = useEngine(),
    project = useProject((state) => state.project),
    [heard, setHeard] = useState<{ readonly loopId: number; readonly bars: readonly (readonly number[])[] }>({ loopId: 0, bars: [] }),
    [cycleStartBeat, setCycleStartBeat] = useState<number | null>(null),
    { row, fitted, alone } = candidate;
  useEffect(() => {
    let gone = false;
    // Not for rows that are only passed by.
    const timer = setTimeout(() => void notesOf(row.id).then((found) => gone || setHeard({ loopId: row.id, bars: found })), 150);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [row.id]);
  useFrame(() => {
    const phase = engine.audition.phase(),
      start = phase === null ? null : Math.round((engine.positionBeat() - phase * fitted.cycleBeats) * 4) / 4;
    if (start !== cycleStartBeat) setCycleStartBeat(start);
  });
  const barCount = row.bars ?? 0,
    shown = candidate.overrides.firstBars ?? barCount,
    against = useMemo(() => {
      if (!project?.chords.length || cycleStartBeat === null || barCount < 1) return [];
      const barBeats = fitted.cycleBeats / Math.min(shown, barCount);
      const bars = heard.loopId === row.id ? heard.bars.slice(0, shown) : [];
      return barsAgainstChords(bars, fitted.shiftSemitones, cycleStartBeat, barBeats, project.chords, keyAt(project, cycleStartBeat));
    }, [heard, row.id, project, cycleStartBeat, fitted, shown, barCount]);
  if (alone || against.length === 0 || candidate.overrides.reverse) return null;
  const width = 100 / (barCount || against.length),
    rubbing = against.filter(({ clash }) => clash.degree >= clashFrom).length;
  return (
    <div
      className="pointer-events-none absolute inset-0"
      role="img"
      aria-label={
        rubbing === 0
          ? 'It agrees with the chords of the project.'
          : `It rubs against the chords in ${rubbing} of ${against.length} bars: ${against
              .flatMap(({ symbol, clash }, bar) =>
                clash.degree >= clashFrom ? [`bar ${bar + 1}, ${clash.pitchClasses.map(pitchClassName).join(' ')} against ${symbol}`] : [],
              )
              .join('; ')}`
      }
    >
      {against.map(({ symbol, clash }, bar) => {
        const rubs = clash.degree >= clashFrom;
        return (
          <div
            key={bar}
            className="absolute inset-y-0 flex flex-col justify-between"
            style={{ left: `${bar * width}%`, width: `${width}%` }}
          >
            <span className="m-0.5 w-fit rounded-sm bg-base-100 px-1 text-[0.79rem] leading-4 font-semibold">{symbol}</span>
            {rubs && (
              <span
                className="m-0.5 w-fit max-w-full truncate rounded-sm border border-error bg-base-100 px-1 text-[0.79rem] leading-4 text-error"
                title={`${Math.round(clash.degree * 100)} % rubs`}
              >
                {clash.pitchClasses.slice(0, 3).map(pitchClassName).join(' ')} rub
              </span>
            )}
          </div>
        );
      })}
    </div>
  );
}
