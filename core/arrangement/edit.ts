import { stretchModeRows } from '../stretch/stretch-modes';
import { parseMeter } from '../units/time';
import {
  findClip,
  leastClipGainDb,
  loopIdOf,
  mostClipGainDb,
  type ChordMark,
  type Clip,
  type Project,
  type Section,
  type Track,
} from './tree';
import type { KeptOverrides } from './fit-settings';
import { inPlayingOrder, mostPatternBeats, mostPatternNotes, type Pattern, type PatternNote } from './pattern/pattern';

type ProjectChanges = Partial<Pick<Project, 'name' | 'tempoBpm' | 'key' | 'meter' | 'masterGainDb'>>;
export type TrackChanges = Partial<Pick<Track, 'name' | 'colour' | 'gainDb' | 'pan' | 'muted' | 'soloed' | 'setAside'>>;
type ClipChanges = Partial<Omit<Clip, 'kind' | 'id'>>;
type SectionChanges = Partial<Omit<Section, 'kind' | 'id'>>;
export type PatternChanges = Partial<Omit<Pattern, 'kind' | 'id' | 'notes'>>;

/** A change of a project as data: it can be sent, checked, applied and taken back. */
export type Edit =
  | { readonly kind: 'set-project'; readonly changes: ProjectChanges }
  | { readonly kind: 'add-track'; readonly track: Track; readonly index: number }
  | { readonly kind: 'remove-track'; readonly trackId: string }
  | { readonly kind: 'set-track'; readonly trackId: string; readonly changes: TrackChanges }
  | { readonly kind: 'add-clip'; readonly trackId: string; readonly clip: Clip }
  | { readonly kind: 'remove-clip'; readonly clipId: string }
  | { readonly kind: 'set-clip'; readonly clipId: string; readonly trackId: string; readonly changes: ClipChanges }
  | { readonly kind: 'add-section'; readonly section: Section }
  | { readonly kind: 'remove-section'; readonly sectionId: string }
  | { readonly kind: 'set-section'; readonly sectionId: string; readonly changes: SectionChanges }
  | { readonly kind: 'set-chords'; readonly chords: readonly ChordMark[] }
  | { readonly kind: 'add-pattern'; readonly pattern: Pattern }
  | { readonly kind: 'remove-pattern'; readonly patternId: string }
  | { readonly kind: 'set-pattern'; readonly patternId: string; readonly changes: PatternChanges }
  /** Notes that go, and notes that come or are otherwise than before, by their ids: what others change in the same pattern stays. */
  | { readonly kind: 'change-notes'; readonly patternId: string; readonly gone: readonly string[]; readonly put: readonly PatternNote[] }
  | { readonly kind: 'batch'; readonly edits: readonly Edit[] };

export interface Edited {
  readonly project: Project;
  readonly inverse: Edit;
}

/** An edit that does not fit the project it is applied to. */
export class EditError extends Error {
  constructor(
    readonly code: 'missing' | 'duplicate' | 'out-of-range',
    message: string,
  ) {
    super(message);
    this.name = 'EditError';
  }
}

/**
 * The project after an edit, and the edit that takes it back. The given project is not touched.
 * @throws {EditError} when what it names is not there, or a value is out of its range
 */
export function applyEdit(project: Project, edit: Edit): Edited {
  switch (edit.kind) {
    case 'set-project':
      return {
        project: checkedProject({ ...project, ...edit.changes }),
        inverse: { kind: 'set-project', changes: previous(project, edit.changes) },
      };
    case 'add-track': {
      if (project.tracks.some((track) => track.id === edit.track.id)) throw new EditError('duplicate', 'That track is there already.');
      checkedTrack(edit.track).clips.forEach(checkedClip);
      return {
        project: { ...project, tracks: project.tracks.toSpliced(edit.index, 0, edit.track) },
        inverse: { kind: 'remove-track', trackId: edit.track.id },
      };
    }
    case 'remove-track': {
      const index = project.tracks.findIndex((track) => track.id === edit.trackId);
      if (index < 0) throw missing('track');
      return {
        project: { ...project, tracks: project.tracks.toSpliced(index, 1) },
        inverse: { kind: 'add-track', track: project.tracks[index], index },
      };
    }
    case 'set-track': {
      const track = trackById(project, edit.trackId);
      return {
        project: withTrack(project, checkedTrack({ ...track, ...edit.changes })),
        inverse: { ...edit, changes: previous(track, edit.changes) },
      };
    }
    case 'add-clip': {
      if (findClip(project, edit.clip.id)) throw new EditError('duplicate', 'That clip is there already.');
      const track = trackById(project, edit.trackId);
      return {
        project: withTrack(project, { ...track, clips: [...track.clips, checkedClip(edit.clip)] }),
        inverse: { kind: 'remove-clip', clipId: edit.clip.id },
      };
    }
    case 'remove-clip': {
      const { track, clip } = clipById(project, edit.clipId);
      return {
        project: withTrack(project, { ...track, clips: track.clips.filter((each) => each.id !== clip.id) }),
        inverse: { kind: 'add-clip', trackId: track.id, clip },
      };
    }
    case 'set-clip':
      return setClip(project, edit);
    case 'add-section': {
      if (project.sections.some((section) => section.id === edit.section.id))
        throw new EditError('duplicate', 'That section is there already.');
      return {
        project: { ...project, sections: sorted([...project.sections, checkedSection(edit.section)]) },
        inverse: { kind: 'remove-section', sectionId: edit.section.id },
      };
    }
    case 'remove-section': {
      const section = sectionById(project, edit.sectionId);
      return {
        project: { ...project, sections: project.sections.filter((each) => each !== section) },
        inverse: { kind: 'add-section', section },
      };
    }
    case 'set-section': {
      const section = sectionById(project, edit.sectionId);
      return {
        project: {
          ...project,
          sections: sorted(project.sections.map((each) => (each === section ? checkedSection({ ...section, ...edit.changes }) : each))),
        },
        inverse: { ...edit, changes: previous(section, edit.changes) },
      };
    }
    case 'set-chords':
      return {
        project: { ...project, chords: [...edit.chords].sort((a, b) => a.startBeat - b.startBeat) },
        inverse: { kind: 'set-chords', chords: project.chords },
      };
    case 'add-pattern':
    case 'remove-pattern':
    case 'set-pattern':
    case 'change-notes':
      return editPattern(project, edit);
    case 'batch': {
      let current = project;
      const inverses: Edit[] = [];
      for (const each of edit.edits) {
        const step = applyEdit(current, each);
        current = step.project;
        inverses.unshift(step.inverse);
      }
      return { project: current, inverse: { kind: 'batch', edits: inverses } };
    }
  }
}

function editPattern(
  project: Project,
  edit: Extract<Edit, { kind: 'add-pattern' | 'remove-pattern' | 'set-pattern' | 'change-notes' }>,
): Edited {
  if (edit.kind === 'add-pattern') {
    if (project.patterns.some(({ id }) => id === edit.pattern.id)) throw new EditError('duplicate', 'That pattern is there already.');
    return {
      project: { ...project, patterns: [...project.patterns, checkedPattern(edit.pattern)] },
      inverse: { kind: 'remove-pattern', patternId: edit.pattern.id },
    };
  }
  const pattern = project.patterns.find(({ id }) => id === edit.patternId);
  if (!pattern) throw missing('pattern');
  const withPattern = (next: Pattern | null): Project => ({
    ...project,
    patterns: project.patterns.flatMap((each) => (each === pattern ? (next ?? []) : [each])),
  });
  if (edit.kind === 'remove-pattern') return { project: withPattern(null), inverse: { kind: 'add-pattern', pattern } };
  if (edit.kind === 'set-pattern')
    return {
      project: withPattern(checkedPattern({ ...pattern, ...edit.changes })),
      inverse: { ...edit, changes: previous(pattern, edit.changes) },
    };
  const was = new Map(pattern.notes.map((note) => [note.id, note])),
    put = new Map(edit.put.map((note) => [note.id, note])),
    gone = new Set(edit.gone.filter((id) => !put.has(id))),
    notes = inPlayingOrder([...pattern.notes.filter(({ id }) => !gone.has(id) && !put.has(id)), ...put.values()]);
  return {
    project: withPattern(checkedPattern({ ...pattern, notes })),
    inverse: {
      ...edit,
      gone: [...put.keys()].filter((id) => !was.has(id)),
      put: [...gone, ...put.keys()].flatMap((id) => was.get(id) ?? []),
    },
  };
}

function setClip(project: Project, edit: Extract<Edit, { kind: 'set-clip' }>): Edited {
  const { track, clip } = clipById(project, edit.clipId);
  const changed = checkedClip({ ...clip, ...edit.changes });
  const inverse: Edit = { kind: 'set-clip', clipId: clip.id, trackId: track.id, changes: previous(clip, edit.changes) };
  if (track.id === edit.trackId)
    return { project: withTrack(project, { ...track, clips: track.clips.map((each) => (each === clip ? changed : each)) }), inverse };
  const target = trackById(project, edit.trackId);
  const without = withTrack(project, { ...track, clips: track.clips.filter((each) => each !== clip) });
  return { project: withTrack(without, { ...target, clips: [...target.clips, changed] }), inverse };
}

function previous<T extends object, C extends Partial<T>>(before: T, changes: C): C {
  return Object.fromEntries(Object.keys(changes).map((name) => [name, before[name as keyof T]])) as C;
}

const sorted = (sections: readonly Section[]): readonly Section[] => [...sections].sort((a, b) => a.startBeat - b.startBeat);
const missing = (what: string) => new EditError('missing', `That ${what} is no longer there.`);
function trackById(project: Project, id: string): Track {
  const found = project.tracks.find((track) => track.id === id);
  if (!found) throw missing('track');
  return found;
}
function clipById(project: Project, id: string) {
  const found = findClip(project, id);
  if (!found) throw missing('clip');
  return found;
}
function sectionById(project: Project, id: string): Section {
  const found = project.sections.find((section) => section.id === id);
  if (!found) throw missing('section');
  return found;
}
const withTrack = (project: Project, track: Track): Project => ({
  ...project,
  tracks: project.tracks.map((each) => (each.id === track.id ? track : each)),
});

function need(condition: boolean, sentence: string): void {
  if (!condition) throw new EditError('out-of-range', sentence);
}
const within = (value: number, low: number, high: number) => Number.isFinite(value) && value >= low && value <= high;

function checkedProject(project: Project): Project {
  need(project.name.trim().length > 0 && project.name.length <= 120, 'A project needs a name of up to 120 letters.');
  need(within(project.tempoBpm, 30, 300), 'The tempo must be 30 to 300.');
  need(parseMeter(project.meter) !== null, 'The meter must be written like 4/4.');
  need(within(project.masterGainDb, -60, 12), 'The level must be −60 to +12 dB.');
  return project;
}
function checkedTrack(track: Track): Track {
  need(track.name.trim().length > 0 && track.name.length <= 120, 'A track needs a name of up to 120 letters.');
  need(within(track.gainDb, -60, 12), 'A track’s gain must be −60 to +12 dB.');
  need(within(track.pan, -1, 1), 'Pan must be between left and right.');
  return track;
}
function checkedClip(clip: Clip): Clip {
  need(within(clip.startBeat, 0, 100_000), 'A clip must begin at bar 1 or later.');
  need(within(clip.lengthBeats, 1 / 16, 100_000), 'A clip must last at least a sixteenth of a beat.');
  need(within(clip.offsetBeats, 0, 100_000), 'A clip must begin inside its loop.');
  need(within(clip.gainDb, leastClipGainDb, mostClipGainDb), `A clip’s gain must be −${-leastClipGainDb} to +${mostClipGainDb} dB.`);
  need(within(clip.shiftSemitones, -24, 24), 'A clip can be moved by 24 semitones at most.');
  need(clip.content.kind === 'notes' || Number.isSafeInteger(loopIdOf(clip)), 'A clip must play a loop or a pattern.');
  need(
    (clip.shiftMarks ?? []).every(({ semitones }) => within(semitones, -24, 24)),
    'A clip can be moved by 24 semitones at most.',
  );
  need(within(clip.fadeInBeats, 0, 100_000) && within(clip.fadeOutBeats, 0, 100_000), 'A fade must not be shorter than nothing.');
  need(clip.landsAfterBeats === null || within(clip.landsAfterBeats, -100_000, 100_000), 'A clip must land in the piece.');
  checkOverrides(clip.overrides);
  return clip;
}
function checkOverrides({ stretchMode, speedRatio, formantSemitones, firstBars, gridStrength }: KeptOverrides): void {
  need(stretchMode == null || stretchModeRows.some((row) => row.mode === stretchMode), 'A clip is stretched in one of the ways there are.');
  need(speedRatio === undefined || within(speedRatio, 0.25, 4), 'A clip can be a quarter to four times as fast.');
  need(formantSemitones === undefined || within(formantSemitones, -12, 12), 'A character can be moved by 12 semitones at most.');
  need(firstBars == null || (Number.isInteger(firstBars) && within(firstBars, 1, 10_000)), 'A clip plays one bar of its loop at least.');
  need(gridStrength == null || within(gridStrength, 0, 1), 'A player is drawn onto the grid by 0 to 100 %.');
}
function checkedPattern(pattern: Pattern): Pattern {
  need(pattern.name.trim().length > 0 && pattern.name.length <= 120, 'A pattern needs a name of up to 120 letters.');
  need(within(pattern.lengthBeats, 1 / 4, mostPatternBeats), `A pattern lasts up to ${mostPatternBeats} beats.`);
  need(pattern.notes.length <= mostPatternNotes, `A pattern has up to ${mostPatternNotes.toLocaleString('en')} notes.`);
  for (const { startBeat, lengthBeats, pitch, velocity } of pattern.notes) {
    need(within(startBeat, 0, mostPatternBeats) && within(lengthBeats, 1 / 128, mostPatternBeats), 'A note must lie in its pattern.');
    need(Number.isInteger(pitch) && within(pitch, 0, 127), 'A note must be one of 128.');
    need(Number.isInteger(velocity) && within(velocity, 1, 127), 'A velocity must be 1 to 127.');
  }
  return pattern;
}
function checkedSection(section: Section): Section {
  need(
    section.name.trim().length > 0 && within(section.startBeat, 0, 100_000) && within(section.lengthBeats, 1, 100_000),
    'A section needs a name, a start and a length.',
  );
  return section;
}
