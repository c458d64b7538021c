import { Drum, Square } from 'lucide-react';
import { useEffect, useState } from 'react';
import { isKey, type KeyValue } from '~core/analysis/attributes/key';
import type { Candidate } from '~core/analysis/facts';
import { keyName, pitchClassName, type Key } from '~core/theory/key';
import { useEngine, useEngineState } from '~/audio/hooks';
import { chordName, tempoText } from '~/ui/format';
import type { LoopDetail } from '~contracts/loop-detail';
import { Keyboard } from './keyboard';

const thirdOf = (minor: boolean): number => (minor ? 3 : 4),
  scaleOf = (minor: boolean): readonly number[] => (minor ? [0, 2, 3, 5, 7, 8, 10, 12] : [0, 2, 4, 5, 7, 9, 11, 12]);

/** Each value and its rivals, the likeliest first. */
function withRivals<T>(value: T, rivals: readonly Candidate<T>[], same: (a: T, b: T) => boolean): T[] {
  return [value, ...rivals.map((rival) => rival.value)]
    .filter((each, k, all) => all.findIndex((other) => same(each, other)) === k)
    .slice(0, 4);
}

/** Judging tempo and key by ear: clicks against the loop, a drone, a chord or a scale under it, its chords, and a keyboard. */
export function CheckByEar({ detail }: { detail: LoopDetail }) {
  const { row, chosen, analysis } = detail,
    engine = useEngine(),
    drone = useEngineState((state) => state.free.droneNote),
    [clicking, setClicking] = useState<number | null>(null),
    sounds = useEngineState((state) => state.candidate?.row.id === row.id);
  useEffect(
    () => () => {
      // The loop itself goes on: by now another one may be on its way.
      engine.endClicks();
      if (engine.store.getState().free.droneNote !== null) engine.setFree({ droneNote: null });
    },
    [engine],
  );
  const tempos =
      row.source.tempoBpm === null
        ? []
        : withRivals(
            row.source.tempoBpm,
            [
              ...((chosen.tempo?.alternatives ?? []) as Candidate<number>[]),
              ...[0.5, 2].map((times) => ({ value: (row.source.tempoBpm ?? 0) * times, probability: 0 })),
            ],
            (a, b) => Math.abs(a / b - 1) < 0.005,
          ),
    keys =
      row.source.key === null
        ? []
        : withRivals<Key>(
            row.source.key,
            ((chosen.key?.alternatives ?? []) as Candidate<KeyValue>[]).flatMap((rival) =>
              isKey(rival.value) ? [{ value: rival.value, probability: rival.probability }] : [],
            ),
            (a, b) => keyName(a) === keyName(b),
          ),
    chords = (analysis?.bars ?? []).slice(0, 16);
  if (tempos.length + keys.length + chords.length === 0) return null;
  const against = (tempoBpm: number) => {
    const next = clicking === tempoBpm && sounds ? null : tempoBpm;
    setClicking(next);
    void engine.clickAgainst(next === null ? null : row, next ?? 0);
  };
  return (
    <section aria-labelledby="ear-title" className="mt-6">
      <h2 id="ear-title">Check by ear</h2>
      <div className="mt-2 flex flex-wrap gap-x-10 gap-y-4">
        {tempos.length > 0 && (
          <div>
            <h3 className="font-semibold">Clicks against it</h3>
            <p className="quiet">the loop on the left, clicks on the right</p>
            <div className="mt-1 flex flex-wrap gap-1.5">
              {tempos.map((tempoBpm) => (
                <button
                  key={tempoBpm}
                  className={`btn btn-sm ${clicking === tempoBpm && sounds ? 'btn-neutral' : ''}`}
                  aria-pressed={clicking === tempoBpm && sounds}
                  onClick={() => against(tempoBpm)}
                >
                  {clicking === tempoBpm && sounds ? <Square className="size-3.5" fill="currentColor" /> : <Drum className="size-4" />}
                  {tempoText(tempoBpm)}
                </button>
              ))}
            </div>
          </div>
        )}
        {keys.length > 0 && (
          <div>
            <h3 className="font-semibold">Key under it</h3>
            <ul className="mt-1 flex flex-col gap-1">
              {keys.map((key) => {
                const note = 48 + key.tonic,
                  minor = key.mode === 'minor';
                return (
                  <li key={keyName(key)} className="flex items-center gap-1.5">
                    <span className="w-20">{keyName(key)}</span>
                    <button
                      className={`btn btn-xs ${drone === note ? 'btn-neutral' : ''}`}
                      aria-pressed={drone === note}
                      onClick={() => engine.setFree({ droneNote: drone === note ? null : note, droneThird: null })}
                    >
                      drone
                    </button>
                    <button
                      className="btn btn-xs"
                      onClick={() => void engine.soundNotes([note, note + thirdOf(minor), note + 7, note + 12], 2)}
                    >
                      chord
                    </button>
                    <button className="btn btn-xs" onClick={() => void engine.soundLine(scaleOf(minor).map((step) => note + 12 + step))}>
                      scale
                    </button>
                  </li>
                );
              })}
            </ul>
          </div>
        )}
        {chords.some(({ chord }) => chord) && (
          <div>
            <h3 className="font-semibold">Its chords</h3>
            <ol className="mt-1 flex max-w-sm flex-wrap gap-1">
              {chords.map(({ chord }, bar) => (
                <li key={bar}>
                  <button
                    className="btn btn-xs"
                    disabled={!chord}
                    // What is seen on it is part of its name, so that it can be called by voice.
                    aria-label={
                      chord
                        ? `Bar ${bar + 1} ${chordName(chord)}, ${pitchClassName(chord.root)} ${chord.minor ? 'minor' : 'major'}`
                        : `Bar ${bar + 1}, nothing`
                    }
                    onClick={() =>
                      chord &&
                      void engine.soundNotes(
                        [48 + chord.root, 60 + chord.root, 60 + chord.root + thirdOf(chord.minor), 67 + chord.root],
                        1.5,
                      )
                    }
                  >
                    <span className="quiet">{bar + 1}</span> {chord ? chordName(chord) : '–'}
                  </button>
                </li>
              ))}
            </ol>
          </div>
        )}
        {row.source.pitched && (
          <div>
            <h3 className="font-semibold">Keyboard</h3>
            <p className="quiet">dots are the loop’s notes</p>
            <div className="mt-1">
              <Keyboard shares={detail.chroma} onPlay={(note) => void engine.soundNotes([note], 0.9)} />
            </div>
          </div>
        )}
      </div>
    </section>
  );
}
