import { noChord, readChord, type ChordTones } from '../../theory/chord';
import type { Key } from '../../theory/key';
import type { ChordMark, Project, Section } from '../tree';

/** What of a project says its harmony. */
export type Harmonic = Pick<Project, 'key'> & Partial<Pick<Project, 'sections' | 'chords'>>;

/** What holds at a beat. */
export interface HarmonyHere {
  readonly key: Key | null;
  /** The symbol as it was written; null where none was said, or that none sounds. */
  readonly symbol: string | null;
  readonly chord: ChordTones | null;
}

const nearly = 1e-6;

/** The section that says the key at a beat: the last one before it which says any; null where the project's holds. */
export const keySectionAt = ({ sections = [] }: Harmonic, beat: number): Section | null =>
  sections.findLast(({ key, startBeat }) => key && startBeat <= beat + nearly) ?? null;

/** The key at a beat: that of the section which says it, else the project's. */
export const keyAt = (project: Harmonic, beat: number): Key | null => keySectionAt(project, beat)?.key ?? project.key;

/** Tempo and key at a beat, for what is made to belong there and is in no place yet. */
export const settingAt = (project: Harmonic & Pick<Project, 'tempoBpm'>, beat: number): Pick<Project, 'tempoBpm' | 'key'> => ({
  tempoBpm: project.tempoBpm,
  key: keyAt(project, beat),
});

/** The chord that holds at a beat: the last one that began; null before the first. */
export function chordAtBeat(chords: readonly ChordMark[], beat: number): ChordMark | null {
  return chords.findLast((chord) => chord.startBeat <= beat + nearly) ?? null;
}

/** Key and chord of a project at a beat. */
export function harmonyAt(project: Harmonic, beat: number): HarmonyHere {
  const mark = chordAtBeat(project.chords ?? [], beat),
    symbol = mark && mark.symbol !== noChord ? mark.symbol : null;
  return { key: keyAt(project, beat), symbol, chord: symbol ? readChord(symbol) : null };
}

/** The beats inside a stretch at which key or chord change, in order. */
export function linesBetween({ sections = [], chords = [] }: Harmonic, fromBeat: number, toBeat: number): number[] {
  return [...sections.flatMap(({ key, startBeat }) => (key ? startBeat : [])), ...chords.map(({ startBeat }) => startBeat)]
    .filter((beat) => beat > fromBeat + nearly && beat < toBeat - nearly)
    .sort((a, b) => a - b)
    .filter((beat, k, all) => k === 0 || beat > all[k - 1] + nearly);
}

/** How long each chord of a line holds: until the next, the last one until the end. */
export const chordLengths = (chords: readonly ChordMark[], endBeat: number): number[] =>
  chords.map(({ startBeat }, k) => Math.max(0, (chords[k + 1]?.startBeat ?? Math.max(endBeat, startBeat)) - startBeat));

/** The harmony of a project as one name: two that have the same one bring their material into the same keys and chords. */
export const harmonyName = ({ key, sections = [], chords = [] }: Harmonic): string =>
  JSON.stringify([key, sections.map((section) => [section.startBeat, section.key]), chords]);
