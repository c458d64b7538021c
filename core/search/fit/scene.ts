import type { Key } from '../../theory/key';
import type { LicenceUse } from '../../library/licence';
import type { FitContext } from './coarse';
import { bandCount, type ProfileReader } from './profile';

/** Something of the project that sounds in the range that is heard. */
export interface Sounding {
  readonly loopId: number;
  readonly setId: number | null;
  readonly packId: number;
  readonly isDrums: boolean;
  /** Loudness as it sounds in the mix, LUFS; null where it is not known. */
  readonly loudnessLufs: number | null;
  /** Semitones by which it is moved. */
  readonly shiftSemitones: number;
  /** Where it begins and ends within the range, beats of the project. */
  readonly startBeat: number;
  readonly lengthBeats: number;
  /** Length of one of its bars, and of its cycle, in beats of the project. */
  readonly barBeats: number;
  readonly cycleBeats: number;
  /** Where in its cycle the clip begins, beats of the project. */
  readonly offsetBeats: number;
  readonly profile: ProfileReader | null;
}

/** What sounds in a range of a project, as far as fit goes by it. */
export interface Scene extends FitContext {
  readonly key: Key | null;
  readonly meter: string;
  readonly barBeats: number;
  /** Bars of the section that is heard; null where there is none. */
  readonly sectionBars: number | null;
  /** Share of the sounding energy in ten bands; null where nothing of known colour sounds. */
  readonly bands: Float32Array | null;
  /** How hard each sixteenth of a bar is played, the hardest 1; null where nothing says so. */
  readonly accents: Float32Array | null;
  readonly swing: number | null;
  /** Strength of twelve pitch classes in each bar; null where nothing pitched sounds. */
  readonly harmony: readonly Float32Array[] | null;
  readonly loopIds: ReadonlySet<number>;
  readonly setIds: ReadonlySet<number>;
  readonly packIds: ReadonlySet<number>;
  /** What is needed of a licence. */
  readonly needs: readonly LicenceUse[];
}

/** So many bars of a range are looked at: music repeats. */
export const mostSceneBars = 16;

export interface SceneFrame extends FitContext {
  readonly meter: string;
  readonly barBeats: number;
  readonly lengthBeats: number;
  readonly sectionBars: number | null;
  /** Pitch classes of the chord that holds in each bar; null where none is written. */
  readonly chordsByBar: readonly (readonly number[] | null)[];
  readonly needs: readonly LicenceUse[];
}

/** What a project's range is for a candidate, from what sounds in it. */
export function sceneOf(frame: SceneFrame, sounding: readonly Sounding[]): Scene {
  const barCount = Math.max(1, Math.min(mostSceneBars, Math.ceil(frame.lengthBeats / frame.barBeats - 1e-6)));
  return {
    tempoBpm: frame.tempoBpm,
    key: frame.key,
    meter: frame.meter,
    barBeats: frame.barBeats,
    sectionBars: frame.sectionBars,
    bands: bandsOf(sounding),
    ...rhythmOf(frame, sounding),
    harmony: harmonyOf(frame, sounding, barCount),
    loopIds: new Set(sounding.map(({ loopId }) => loopId)),
    setIds: new Set(sounding.flatMap(({ setId }) => setId ?? [])),
    packIds: new Set(sounding.map(({ packId }) => packId)),
    needs: frame.needs,
  };
}

/** Energy by band, of each sound as loud as it is. */
function bandsOf(sounding: readonly Sounding[]): Float32Array | null {
  const sums = new Float32Array(bandCount);
  for (const { profile, loudnessLufs } of sounding)
    if (profile?.isKnown && profile.hasBands)
      for (let k = 0; k < bandCount; k++) sums[k] += profile.band(k) * 10 ** ((loudnessLufs ?? -20) / 10);
  const total = sums.reduce((sum, value) => sum + value, 0);
  return total > 0 ? sums.map((value) => value / total) : null;
}

function rhythmOf({ barBeats }: SceneFrame, sounding: readonly Sounding[]): Pick<Scene, 'accents' | 'swing'> {
  const heard = sounding.filter(({ profile, barBeats: own }) => profile?.isKnown && profile.cells > 0 && Math.abs(own - barBeats) < 0.01),
    cells = heard[0]?.profile?.cells ?? 0;
  if (cells === 0) return { accents: null, swing: null };
  const accents = new Float32Array(cells),
    swings: number[] = [];
  for (const { profile, startBeat, offsetBeats } of heard) {
    if (profile?.cells !== cells) continue;
    // One that begins within the bar, or within its cycle, is turned by as much.
    const turned = Math.round(((startBeat - offsetBeats) / barBeats) * cells);
    for (let cell = 0; cell < cells; cell++) {
      const place = (((cell + turned) % cells) + cells) % cells;
      accents[place] = Math.max(accents[place], profile.accent(cell));
    }
    if (profile.swing !== null) swings.push(profile.swing);
  }
  swings.sort((a, b) => a - b);
  return { accents, swing: swings[swings.length >> 1] ?? null };
}

function harmonyOf({ barBeats, chordsByBar }: SceneFrame, sounding: readonly Sounding[], barCount: number): Float32Array[] | null {
  let isKnown = false;
  const bars = Array.from({ length: barCount }, (_, bar) => {
    const strengths = new Float32Array(12),
      chord = chordsByBar[bar] ?? null;
    if (chord) {
      isKnown = true;
      for (const pitch of chord) strengths[pitch] = 1;
    }
    for (const sound of sounding) {
      const { profile } = sound;
      if (!profile?.isKnown || profile.bars === 0 || sound.isDrums) continue;
      const middle = (bar + 0.5) * barBeats;
      if (middle < sound.startBeat || middle >= sound.startBeat + sound.lengthBeats) continue;
      const within = (middle - sound.startBeat + sound.offsetBeats) % Math.max(sound.barBeats, sound.cycleBeats),
        own = Math.floor(within / sound.barBeats) % profile.bars,
        shift = Math.round(sound.shiftSemitones);
      for (let pitch = 0; pitch < 12; pitch++) {
        const place = (((pitch + shift) % 12) + 12) % 12,
          strength = profile.pitch(own, pitch);
        if (strength > 0) isKnown = true;
        strengths[place] = Math.max(strengths[place], strength);
      }
    }
    return strengths;
  });
  return isKnown ? bars : null;
}
