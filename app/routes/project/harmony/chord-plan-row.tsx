import type { LoopSource } from '~core/arrangement/fit-request';
import { canFollowChords, costOfMove, type PlannedStretch } from '~core/arrangement/harmony/chord-plan';
import { hasClearLine } from '~core/arrangement/harmony/note-moves';
import { chordPlanOf } from '~core/arrangement/plan';
import { patternOf } from '~core/arrangement/tree';
import type { ChordWay, Clip, Project, ShiftMark } from '~core/arrangement/tree';
import { pitchName } from '~core/theory/spelling';
import { beatsPerBar } from '~core/units/time';
import { signed } from '~/ui/format';
import { placeOf } from './chord-lane';

const mostShown = 24;

/** How a clip goes with the chords of the piece: whether, how, and by how much in each stretch; what was settled by hand stays. */
export function ChordPlanRow({
  project,
  clip,
  source,
  onChange,
}: {
  project: Project;
  clip: Clip;
  source: LoopSource | null;
  onChange: (changes: Partial<Clip>) => void;
}) {
  const isNotes = clip.content.kind === 'notes',
    bar = beatsPerBar(project.meter),
    can = (isNotes && patternOf(project, clip)?.isDrums === false) || (source !== null && canFollowChords(source)),
    plan = source && (clip.chordWay !== null || clip.shiftMarks) ? chordPlanOf(clip, source, project) : [],
    isOtherKind = clip.chordWay === 'roots' && plan.some((stretch) => stretch.isOtherKind);
  /** One stretch moved by hand: from now on all of them are as they are now, but this one. */
  const settle = (stretch: PlannedStretch, by: number) => {
    const origin = clip.startBeat - clip.offsetBeats,
      marks: ShiftMark[] = plan.map((each) => ({
        atBeat: each.startBeat - origin,
        semitones: Math.max(-24, Math.min(24, each.semitones + (each === stretch ? by : 0))),
      }));
    onChange({ shiftMarks: marks });
  };
  return (
    <>
      <label className="flex items-center gap-1.5">
        <span className="caps">Chords</span>
        <select
          className="select select-xs w-44"
          aria-label="How it goes with the chords"
          value={clip.chordWay ?? 'stay'}
          disabled={!can}
          title={can ? undefined : 'No chords of it are known; drums keep their pitch.'}
          onChange={({ target }) => onChange({ chordWay: target.value === 'stay' ? null : (target.value as ChordWay), shiftMarks: null })}
        >
          <option value="stay">keep its own</option>
          <option value="roots">{isNotes ? 'follow the chords' : 'follow, by roots'}</option>
          {!isNotes && source && hasClearLine(source) && <option value="notes">follow, note by note</option>}
        </select>
      </label>
      {clip.chordWay !== null && project.chords.length === 0 && (
        <span className="quiet">There are no chords yet: write them over the bars.</span>
      )}
      {(plan.length > 1 || clip.shiftMarks !== null || (plan.length === 1 && plan[0].to !== null)) && clip.chordWay !== 'notes' && (
        <span className="flex basis-full flex-wrap items-center gap-1" role="group" aria-label="Moved with the chords">
          {plan.slice(0, mostShown).map((stretch) => {
            const total = stretch.semitones,
              cost = costOfMove(total);
            return (
              <span
                key={stretch.startBeat}
                className={`flex items-center rounded-sm border bg-base-100 px-1 ${cost.grade === 3 ? 'border-warning' : 'border-base-300'}`}
                title={`${placeOf(stretch.startBeat, bar)}: ${stretch.from ? `${pitchName(stretch.from.root, project.key)}${stretch.from.third === 'minor' ? 'm' : ''} → ${stretch.to ?? 'no chord'}; ` : ''}${cost.words}`}
              >
                <span className="quiet mr-1">{placeOf(stretch.startBeat, bar).replace('bar ', '').replace(', beat ', '.')}</span>
                <button
                  className="px-0.5 hover:bg-base-300"
                  aria-label={`${placeOf(stretch.startBeat, bar)}: a semitone down`}
                  onClick={() => settle(stretch, -1)}
                >
                  −
                </button>
                <span className="min-w-6 text-center font-semibold">{signed(total)}</span>
                <button
                  className="px-0.5 hover:bg-base-300"
                  aria-label={`${placeOf(stretch.startBeat, bar)}: a semitone up`}
                  onClick={() => settle(stretch, 1)}
                >
                  +
                </button>
                <span aria-hidden="true" className="ml-0.5 text-[0.79rem] tracking-tighter opacity-80">
                  {'▪'.repeat(cost.grade)}
                </span>
              </span>
            );
          })}
          {plan.length > mostShown && <span className="quiet">and {plan.length - mostShown} more</span>}
          {clip.shiftMarks !== null && (
            <button className="btn btn-xs" onClick={() => onChange({ shiftMarks: null })}>
              As the chords ask
            </button>
          )}
          {isOtherKind && (
            <span className="quiet">
              Major meets minor somewhere: its roots agree, its thirds may rub.
              {source && hasClearLine(source) ? ' Note by note it can have both.' : ' It is no single line, so roots are what can be had.'}
            </span>
          )}
        </span>
      )}
    </>
  );
}
