import type { Detail } from '~core/analysis/analysis';
import { coarseCost } from '~core/search/fit/coarse';
import { ProfileReader, profileOf } from '~core/search/fit/profile';
import { sceneOf, type Scene, type Sounding } from '~core/search/fit/scene';
import { fitScore, noFindings, type FitLoop } from '~core/search/fit/score';
import { usualWeights, type FitWeights } from '~core/search/fit/weights';
import { createRandom } from '~core/synth/random';
import type { Key } from '~core/theory/key';
import { indexOf } from '../../test/generators/indexed';
import { generateLoops } from '../../test/generators/library-rows';

const scales = { minor: [0, 2, 3, 5, 7, 8, 10], major: [0, 2, 4, 5, 7, 9, 11] } as const;

interface Planted {
  readonly scene: Scene;
  readonly loop: FitLoop;
}

/** A project of drums, bass and chords, and a loop that was made for it: its tempo within a few per cent, its own chords up to two semitones away, between its accents, in a register that is free. */
function plant(seed: number): Planted {
  const random = createRandom(seed * 31 + 5),
    pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)],
    tempoBpm = 76 + Math.round(random() * 70),
    key: Key = { tonic: Math.floor(random() * 12), mode: random() < 0.5 ? 'minor' : 'major' },
    degrees = pick([
      [0, 5, 2, 6],
      [0, 3, 4, 3],
      [0, 4, 5, 3],
      [0, 6, 5, 4],
      [0, 2, 3, 4],
    ]),
    chord = (degree: number) => [0, 2, 4].map((step) => (key.tonic + scales[key.mode][(degree + step) % 7]) % 12),
    bars = degrees.map(chord),
    moved = pick([-2, -1, 0, 0, 0, 1, 2]),
    speed = 1 + (random() - 0.5) * 0.04,
    sounds = (family: 'drums' | 'bass' | 'keys'): Sounding => ({
      loopId: -1,
      setId: null,
      packId: -1,
      isDrums: family === 'drums',
      loudnessLufs: -16 + random() * 4,
      shiftSemitones: 0,
      startBeat: 0,
      lengthBeats: 16,
      barBeats: 4,
      cycleBeats: 16,
      offsetBeats: 0,
      profile: new ProfileReader(
        profileOf(
          detailOf(
            family === 'drums'
              ? [0.5, 0.1, 0.05, 0.02, 0.02, 0.02, 0.02, 0.02, 0.02, 0.02]
              : family === 'bass'
                ? [0.8, 0.15, 0.05, 0, 0, 0, 0, 0, 0, 0]
                : [0.05, 0.3, 0.4, 0.2, 0.05, 0, 0, 0, 0, 0],
            family === 'drums'
              ? [1, 0, 0, 0, 0.8, 0, 0, 0, 0.9, 0, 0.3, 0, 0.8, 0, 0, 0]
              : family === 'bass'
                ? [1, 0, 0, 0.6, 0, 0, 0.7, 0, 0, 0, 0.5, 0, 0, 0, 0, 0]
                : [1, 0, 0, 0, 0, 0, 0, 0, 0.6, 0, 0, 0, 0, 0, 0, 0],
            family === 'drums' ? [] : bars.map((notes) => (family === 'bass' ? [notes[0]] : notes)),
            random,
          ),
        ) ?? new Uint8Array(),
      ),
    }),
    own = detailOf(
      [0, 0, 0.02, 0.1, 0.25, 0.25, 0.2, 0.1, 0.05, 0.03],
      [0, 0, 0.7, 0, 0.3, 0, 0.8, 0, 0, 0.5, 0, 0, 0.3, 0, 0.7, 0],
      bars.map((notes) => notes.map((pitch) => (pitch - moved + 12) % 12)),
      random,
    );
  return {
    scene: sceneOf({ tempoBpm, key, meter: '4/4', barBeats: 4, lengthBeats: 16, sectionBars: 4, chordsByBar: [], needs: ['commercial'] }, [
      sounds('drums'),
      sounds('bass'),
      sounds('keys'),
    ]),
    loop: {
      loopId: 0,
      kind: 'loop',
      tempoBpm: tempoBpm * speed,
      key: { tonic: (key.tonic - moved + 12) % 12, mode: key.mode },
      pitched: true,
      family: 'guitar',
      instrument: 'electric-guitar',
      bars: 4,
      beats: 16,
      meter: '4/4',
      barBeats: 4,
      setId: null,
      packId: 1,
      allows: () => true,
      profile: new ProfileReader(profileOf(own) ?? new Uint8Array()),
    },
  };
}

function detailOf(
  bands: readonly number[],
  accents: readonly number[],
  bars: readonly (readonly number[])[],
  random: () => number,
): Detail {
  const noisy = accents.map((value) => Math.max(0, Math.min(1, value + (random() - 0.5) * 0.15)));
  return {
    readings: [],
    pulse: [],
    groove: { accents: [noisy, noisy, noisy], swing: null, spreadMs: 6 },
    bars: bars.map((notes) => ({
      pitchClasses: Array.from({ length: 12 }, (_, pitch) => (notes.includes(pitch) ? 0.7 + random() * 0.3 : random() < 0.15 ? 0.25 : 0)),
      notes: [],
      bass: null,
      chord: null,
    })),
    families: [],
    levels: null,
    character: [],
    bands,
    tuningAgreement: 1,
    heardSeconds: null,
    density: 2,
    brightnessHz: 1500,
    fallSeconds: 0.3,
  };
}

export interface PlantedResult {
  readonly projects: number;
  /** Share of planted loops among the first ten, by the whole fit and by stretch and shift alone. */
  readonly byFit: number;
  readonly byStretchAndShift: number;
}

/** How often the loop that was made for a project stands among the first ten of pitched loops and of all, with 2,000 others. */
export function findPlanted(
  projects: number,
  firstSeed = 1000,
  others = 2000,
  weights: FitWeights = usualWeights,
): { pitched: PlantedResult; all: PlantedResult } {
  const index = indexOf(generateLoops(others, 99)),
    reader = index.reader(),
    found = noFindings(),
    counts = { pitched: [0, 0], all: [0, 0] };
  for (let seed = firstSeed; seed < firstSeed + projects; seed++) {
    const { scene, loop } = plant(seed),
      own = fitScore(loop, scene, weights, found),
      ownCoarse = coarseCost(loop, scene);
    for (const kind of ['pitched', 'all'] as const) {
      let before = 0,
        beforeCoarse = 0;
      for (const slot of index.aliveSlots()) {
        const other = reader.at(slot);
        if (kind === 'pitched' && other.pitched !== true) continue;
        if (fitScore(other, scene, weights, found) > own) before++;
        if (coarseCost(other, scene) < ownCoarse) beforeCoarse++;
      }
      if (before < 10) counts[kind][0]++;
      if (beforeCoarse < 10) counts[kind][1]++;
    }
  }
  const result = ([byFit, byStretchAndShift]: number[]): PlantedResult => ({
    projects,
    byFit: byFit / projects,
    byStretchAndShift: byStretchAndShift / projects,
  });
  return { pitched: result(counts.pitched), all: result(counts.all) };
}
