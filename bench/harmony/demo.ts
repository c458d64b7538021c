import { analyseAudio } from '../../core/analysis/analyse-audio';
import type { LoopSource } from '../../core/arrangement/fit-request';
import { heardChords } from '../../core/arrangement/harmony/loop-harmony';
import { emptyProject, newClip, newTrack, type ChordWay, type Project } from '../../core/arrangement/tree';
import { noTags } from '../../core/formats/tags/embedded';
import { instrumentById } from '../../core/theory/instruments';
import { beatsPerBar, projectRateHz } from '../../core/units/time';
import type { FileSpec } from '../../demo/catalogue';
import { demoLoops, demoSpecimen } from '../audio/sanity-specimens';
import { soundUnder, type SoundAfterPlan } from './sound';

export interface DemoUnderChords extends SoundAfterPlan {
  readonly name: string;
  readonly way: ChordWay;
}

/** All loops of the demo that have a pitch. */
export const pitchedDemoLoops = (): readonly FileSpec[] =>
  demoLoops().filter(({ truth, player }) => truth.key !== null && player !== 'mix');

const symbols = ['Dm', 'B♭', 'F♯m', 'A7'];

/** A demo loop laid under four chords that lie far apart: by its roots, and note by note where one voice is heard in it. */
export function demoUnderChords(spec: FileSpec): DemoUnderChords[] {
  const { name, cycle, beats } = demoSpecimen(spec),
    { truth } = spec,
    tempoBpm = truth.tempoBpm as number,
    barBeats = beatsPerBar(truth.meter),
    { measures } = analyseAudio(
      { channels: [...cycle], sampleRateHz: projectRateHz },
      `Loop ${tempoBpm}bpm ${beats / barBeats}bars.wav`,
      noTags,
    ),
    family = instrumentById(truth.instrument)?.family ?? null,
    line = measures.detail?.melody ?? null,
    source: LoopSource = {
      loopId: 1,
      kind: 'loop',
      media: 'audio',
      soundSha: name,
      soundFrames: cycle[0].length,
      tempoBpm,
      beats,
      key: truth.key,
      pitched: true,
      family,
      instrument: truth.instrument,
      loudnessLufs: null,
      startFrame: 0,
      onsetFrames: measures.onsetFrames,
      faintFrames: measures.faintFrames,
      barBeats,
      harmony: {
        chords: heardChords(measures.detail?.bars ?? [], measures.detail?.beatChords ?? [], barBeats, family),
        isStated: false,
        bars: [],
        line,
      },
    },
    under = (chordWay: ChordWay): Project => ({
      ...emptyProject(name, tempoBpm, truth.key),
      meter: truth.meter,
      chords: symbols.map((symbol, bar) => ({ symbol, startBeat: bar * barBeats })),
      tracks: [
        newTrack({
          id: 't',
          name,
          clips: [newClip({ id: 'c', loopId: 1, startBeat: 0, lengthBeats: symbols.length * barBeats, chordWay })],
        }),
      ],
    });
  return (['roots', ...(line && line.length > 1 ? (['notes'] as const) : [])] as const).map((way) => ({
    name,
    way,
    ...soundUnder(under(way), source, cycle),
  }));
}
