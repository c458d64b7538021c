import { memo, useCallback } from 'react';
import type { LoopSource } from '~core/arrangement/fit-request';
import { chordPlanOf, fitClip, type Setting } from '~core/arrangement/plan';
import type { Pattern, SoundingNote } from '~core/arrangement/pattern/pattern';
import { notesOfClip } from '~core/arrangement/pattern/plan-notes';
import { ofLoop, patternOf, type Clip } from '~core/arrangement/tree';
import type { WholeLoop } from '~contracts/whole-loop';
import { useEngineState } from '~/audio/hooks';
import { Canvas } from '~/ui/canvas';
import { readToken } from '~/ui/theme';
import { decodeOverview, drawWave } from '~/ui/waveform';
import { ClipBox, type ClipHands, type ClipRoom } from './clip-box';
import { drawNotes, drawPlan } from './draw-clip';
import type { Drawn } from './timeline-view';

const overviews = new WeakMap<WholeLoop, Uint8Array>();

function overviewOf(row: WholeLoop): Uint8Array {
  let found = overviews.get(row);
  if (!found) overviews.set(row, (found = decodeOverview(row.overview)));
  return found;
}

interface Cycle {
  readonly source: LoopSource;
  readonly tempoBpm: number;
  readonly beats: number;
  readonly goesRound: boolean;
}
const cycles = new WeakMap<Clip, Cycle>();

/** How long one time of a clip is in beats, worked out once as long as nothing it depends on changes. */
function cycleOf(clip: Clip, source: LoopSource, setting: Setting): Cycle {
  const known = cycles.get(clip);
  if (known?.source === source && known.tempoBpm === setting.tempoBpm) return known;
  const { cycleBeats, cycleFrames } = fitClip(clip, source, setting),
    made = { source, tempoBpm: setting.tempoBpm, beats: cycleBeats, goesRound: Number.isFinite(cycleFrames) };
  cycles.set(clip, made);
  return made;
}

const sounding = new WeakMap<Clip, { readonly pattern: Pattern; readonly setting: Setting; readonly notes: readonly SoundingNote[] }>();

/** The notes of a clip as they sound, worked out once as long as nothing they depend on changes. */
function soundingOf(clip: Clip, pattern: Pattern, setting: Setting): readonly SoundingNote[] {
  const known = sounding.get(clip);
  if (known?.pattern === pattern && known.setting === setting) return known.notes;
  const notes = notesOfClip(clip, pattern, setting);
  sounding.set(clip, { pattern, setting, notes });
  return notes;
}

/** Above it a clip has room for its name. */
const nameHeight = 16;

const roomOf = (width: number, height: number): ClipRoom => (width < 20 ? 'none' : width > 64 && height > 40 ? 'handles' : 'name');

interface Props {
  readonly clips: readonly Clip[];
  readonly loops: ReadonlyMap<number, WholeLoop>;
  readonly patterns: readonly Pattern[];
  readonly setting: Setting;
  readonly colour: number;
  readonly height: number;
  readonly beatPixels: number;
  readonly laneBeats: number;
  readonly barBeats: number;
  readonly stepBeats: number | null;
  readonly drawn: Pick<Drawn, 'fromX' | 'toX'>;
  readonly chosen: ReadonlySet<string>;
  readonly heldBy: ReadonlyMap<string, string>;
  readonly hands: ClipHands;
}

/** The clips of a track that are near what is seen: their sound on one canvas, and a box for each that is taken hold of. */
export const Lane = memo(function Lane({
  clips,
  loops,
  patterns,
  setting,
  colour,
  height,
  beatPixels,
  laneBeats,
  barBeats,
  stepBeats,
  drawn: { fromX, toX },
  chosen,
  heldBy,
  hands,
}: Props) {
  const silentSounds = useEngineState((state) => state.silentSounds),
    isLost = (clip: Clip): boolean => {
      if (clip.content.kind === 'notes') return patternOf({ patterns }, clip) === null;
      const row = ofLoop(loops, clip);
      return !row || silentSounds.has(row.source.soundSha);
    };
  const near = clips.filter(({ startBeat, lengthBeats }) => startBeat * beatPixels < toX && (startBeat + lengthBeats) * beatPixels > fromX);
  const draw = useCallback(
    (context: CanvasRenderingContext2D, canvasWidth: number, canvasHeight: number) => {
      const ink = readToken(`--track-${colour}`),
        seam = readToken('--wave-strong'),
        ground = readToken('--color-base-200'),
        top = canvasHeight > 40 ? nameHeight + 4 : 5,
        // Lines of bars, fewer where they would stand too close. On the canvas: as a background they would be painted far beyond what is seen.
        linePixels = barBeats * beatPixels * (barBeats * beatPixels < 12 ? 4 : 1);
      context.fillStyle = readToken('--grid');
      for (let line = Math.ceil(fromX / linePixels); line * linePixels - fromX < canvasWidth; line++)
        context.fillRect(Math.round(line * linePixels - fromX), 0, 1, canvasHeight);
      for (const clip of clips) {
        const left = clip.startBeat * beatPixels - fromX,
          right = (clip.startBeat + clip.lengthBeats) * beatPixels - fromX - 1;
        if (right < 0 || left > canvasWidth) continue;
        context.fillStyle = ground;
        context.fillRect(left, 4, right - left, canvasHeight - 8);
        const pattern = patternOf({ patterns }, clip);
        if (pattern)
          drawNotes(context, clip, pattern, soundingOf(clip, pattern, setting), {
            ink,
            seam,
            left,
            right,
            top,
            beatPixels,
            height: canvasHeight,
          });
        const row = ofLoop(loops, clip);
        if (!row) continue;
        const { beats, goesRound } = cycleOf(clip, row.source, setting),
          cycle = beats * beatPixels;
        if (cycle < 2) continue;
        context.save();
        context.beginPath();
        context.rect(left, 0, right - left, canvasHeight);
        context.clip();
        context.globalAlpha = clip.muted ? 0.35 : 1;
        const first = left - (goesRound ? clip.offsetBeats % beats : clip.offsetBeats) * beatPixels;
        // What lies left of the canvas is not drawn.
        for (
          let at = first + (goesRound ? Math.max(0, Math.floor(-first / cycle)) * cycle : 0);
          at < Math.min(right, canvasWidth);
          at += cycle
        ) {
          // On whole pixels: its bars are one wide.
          drawWave(context, Math.round(at), top, cycle, canvasHeight - top - 5, {
            overview: overviewOf(row),
            beats: 0,
            barBeats: 0,
            ink,
            strongInk: ink,
          });
          // The seam, so that one sees where it repeats.
          if (at > left) {
            context.fillStyle = seam;
            context.fillRect(Math.round(at), 4, 1, canvasHeight - 8);
          }
          if (!goesRound) break;
        }
        context.restore();
        if (canvasHeight > 40 && (clip.chordWay === 'roots' || clip.shiftMarks))
          drawPlan(context, chordPlanOf(clip, row.source, setting), { fromX, beatPixels, right, y: canvasHeight - 8, ink: seam });
      }
    },
    [clips, loops, patterns, setting, colour, beatPixels, barBeats, fromX],
  );
  return (
    <>
      <div className="pointer-events-none absolute inset-y-0" style={{ left: fromX, width: toX - fromX }}>
        <Canvas draw={draw} className="size-full" />
      </div>
      {near.map((clip) => (
        <ClipBox
          key={clip.id}
          clip={clip}
          title={patternOf({ patterns }, clip)?.name ?? ofLoop(loops, clip)?.title ?? 'a loop that is gone'}
          colour={colour}
          laneBeats={laneBeats}
          room={roomOf(clip.lengthBeats * beatPixels, height)}
          barBeats={barBeats}
          stepBeats={stepBeats}
          isLost={isLost(clip)}
          selected={chosen.has(clip.id)}
          heldBy={heldBy.get(clip.id) ?? null}
          hands={hands}
        />
      ))}
    </>
  );
});
