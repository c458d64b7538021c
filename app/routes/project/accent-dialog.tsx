import { useEffect, useRef } from 'react';
import { sixteenthsOf, turnOnto, type Hit } from '~core/arrangement/accent';
import { ofLoop, type Clip, type Project } from '~core/arrangement/tree';
import { beatsPerBar, framesPerBeat, projectRateHz } from '~core/units/time';
import type { WholeLoop } from '~contracts/whole-loop';
import { useProject } from '~/ui/project-store';
import { decodeOverview } from '~/ui/waveform';
import type { ClipActs } from './use-acts';

/** A loop's hits in beats of its cycle as it is played here, each as strong as the sound is right behind it. */
function hitsOf(row: WholeLoop, cycleBeats: number): Hit[] {
  const { source } = row,
    overview = decodeOverview(row.overview);
  if (source.tempoBpm === null || source.beats === null) return [];
  const cycle = source.beats * framesPerBeat(source.tempoBpm, projectRateHz);
  return source.onsetFrames.flatMap((frame) => {
    const share = (frame - source.startFrame) / cycle;
    if (share < 0 || share >= 1) return [];
    const at = Math.floor(share * overview.length),
      behind = [...overview.slice(at, at + Math.max(2, Math.round(overview.length / (source.beats ?? 4) / 8)))];
    return [{ beat: share * cycleBeats, strength: Math.max(0, ...behind) / 255 }];
  });
}

/** A clip's loop is turned inside it: its hits over the bar, where they are heard, and what turns them. */
export function AccentDialog({ project, clip, acts, onClose }: { project: Project; clip: Clip; acts: ClipActs; onClose: () => void }) {
  const dialog = useRef<HTMLDialogElement>(null),
    row = useProject((state) => ofLoop(state.loops, clip)),
    barBeats = beatsPerBar(project.meter),
    cycleBeats = acts.cycleBeatsOf(clip),
    hits = row && Number.isFinite(cycleBeats) ? hitsOf(row, cycleBeats) : [],
    onto = (wanted: readonly number[]) =>
      acts.slip(turnOnto(sixteenthsOf(hits, cycleBeats), wanted, barBeats, clip.startBeat, clip.offsetBeats));
  useEffect(() => dialog.current?.showModal(), []);
  const beats = Math.max(1, Math.min(64, Math.round(cycleBeats) || 4)),
    heardAt = (beat: number) => (((beat - clip.offsetBeats) % cycleBeats) + cycleBeats) % cycleBeats,
    firstOfBar = clip.startBeat % barBeats;
  return (
    <dialog ref={dialog} className="modal" onClose={onClose} aria-label="Move the accent">
      <div className="modal-box max-w-2xl">
        <h2>Move the accent</h2>
        {hits.length === 0 ? (
          <p className="mt-2">What plays once has no accents to be turned.</p>
        ) : (
          <>
            <svg
              role="img"
              aria-label={`Hits of one time of the loop as they are heard, strongest at ${[...hits]
                .sort((a, b) => b.strength - a.strength)
                .slice(0, 4)
                .map(({ beat }) => `beat ${Number((((heardAt(beat) + firstOfBar) % barBeats) + 1).toFixed(2))}`)
                .join(', ')}`}
              viewBox={`0 0 ${beats * 40} 90`}
              preserveAspectRatio="none"
              className="mt-3 h-28 w-full rounded-sm border border-base-300 bg-base-200"
            >
              {Array.from({ length: beats }, (_, beat) => {
                const inBar = (beat + firstOfBar) % barBeats;
                return (
                  <g key={beat}>
                    <line x1={beat * 40} x2={beat * 40} y1={0} y2={74} stroke={inBar === 0 ? 'var(--wave-strong)' : 'var(--grid-strong)'} />
                    <text x={beat * 40 + 4} y={87} fontSize={12} className="fill-base-content">
                      {inBar + 1}
                    </text>
                  </g>
                );
              })}
              {hits.map(({ beat, strength }, k) => (
                <rect key={k} x={heardAt(beat) * 40} width={4} y={74 - strength * 68} height={strength * 68} fill="var(--color-primary)" />
              ))}
            </svg>
            <div className="mt-3 flex flex-wrap gap-1.5">
              <button type="button" className="btn btn-sm" onClick={() => acts.slip(1)}>
                a beat earlier
              </button>
              <button type="button" className="btn btn-sm" onClick={() => acts.slip(1 / 4)}>
                a 16th earlier
              </button>
              <button type="button" className="btn btn-sm" onClick={() => acts.slip(-1 / 4)}>
                a 16th later
              </button>
              <button type="button" className="btn btn-sm" onClick={() => acts.slip(-1)}>
                a beat later
              </button>
              {barBeats >= 4 && (
                <button type="button" className="btn btn-sm btn-primary" onClick={() => onto([1, 3])}>
                  Onto 2 and 4
                </button>
              )}
              <button type="button" className="btn btn-sm" onClick={() => onto([0])}>
                Onto 1
              </button>
            </div>
          </>
        )}
        <form method="dialog" className="mt-4 text-right">
          <button className="btn btn-sm">Done</button>
        </form>
      </div>
      <form method="dialog" className="modal-backdrop">
        <button aria-label="Close">close</button>
      </form>
    </dialog>
  );
}
