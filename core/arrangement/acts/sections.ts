import type { Edit } from '../edit';
import type { Clip, Project, Section } from '../tree';
import { cutAt, draftOf, editTo, followsOn, joined, liesWithin, type Draft, type NewId } from './parts';

const endOf = ({ startBeat, lengthBeats }: Pick<Section, 'startBeat' | 'lengthBeats'>): number => startBeat + lengthBeats;

/** A draft with all clips cut at beats, so that what lies between is whole. */
function cutEverywhere(project: Project, beats: readonly number[], newId: NewId): Draft {
  const draft = draftOf(project);
  for (const [trackId, clips] of draft) draft.set(trackId, cutAt(clips, beats, newId));
  return draft;
}

/** Clips, chords and sections that begin at a beat or behind it, moved. */
function shiftFrom(project: Project, draft: Draft, from: number, by: number, except: (section: Section) => boolean = () => false): Edit[] {
  for (const [trackId, clips] of draft)
    draft.set(
      trackId,
      clips.map((clip) => (clip.startBeat >= from - 1e-6 ? { ...clip, startBeat: clip.startBeat + by } : clip)),
    );
  return project.sections
    .filter((section) => section.startBeat >= from - 1e-6 && !except(section))
    .map((section) => ({ kind: 'set-section', sectionId: section.id, changes: { startBeat: section.startBeat + by } }));
}

const withChords = (project: Project, change: (chord: Project['chords'][number]) => Project['chords']): Edit[] => {
  const chords = project.chords.flatMap(change);
  return project.chords.length > 0 ? [{ kind: 'set-chords', chords }] : [];
};

/** Room of so many beats at a place: what lies behind moves on. */
export function insertBeats(project: Project, atBeat: number, lengthBeats: number, newId: NewId): Edit | null {
  const draft = cutEverywhere(project, [atBeat], newId),
    around = project.sections.filter((section) => section.startBeat < atBeat - 1e-6 && endOf(section) > atBeat + 1e-6),
    more = [
      ...shiftFrom(project, draft, atBeat, lengthBeats),
      ...around.map((section): Edit => ({
        kind: 'set-section',
        sectionId: section.id,
        changes: { lengthBeats: section.lengthBeats + lengthBeats },
      })),
      ...withChords(project, (chord) => [chord.startBeat >= atBeat ? { ...chord, startBeat: chord.startBeat + lengthBeats } : chord]),
    ];
  return editTo(project, draft, more);
}

/** A section with all that lies in it once more behind itself: *again*. */
export function repeatSection(project: Project, sectionId: string, newId: NewId): Edit | null {
  const section = project.sections.find(({ id }) => id === sectionId);
  if (!section) return null;
  const [from, to] = [section.startBeat, endOf(section)],
    { lengthBeats } = section,
    draft = cutEverywhere(project, [from, to], newId),
    inside = new Map([...draft].map(([trackId, clips]) => [trackId, clips.filter((clip) => liesWithin(clip, from, to))])),
    more = shiftFrom(project, draft, to, lengthBeats);
  for (const [trackId, clips] of inside)
    draft.get(trackId)?.push(...clips.map((clip) => ({ ...clip, id: newId(), startBeat: clip.startBeat + lengthBeats })));
  more.push({ kind: 'add-section', section: { ...section, id: newId(), startBeat: to } });
  more.push(
    ...withChords(project, (chord) => {
      if (chord.startBeat >= to) return [{ ...chord, startBeat: chord.startBeat + lengthBeats }];
      return chord.startBeat >= from ? [chord, { ...chord, startBeat: chord.startBeat + lengthBeats }] : [chord];
    }),
  );
  return editTo(project, draft, more);
}

/** A section taken out with what lies in it. @param closesGap whether what lies behind moves up */
export function takeOutSection(project: Project, sectionId: string, closesGap: boolean, newId: NewId): Edit | null {
  const section = project.sections.find(({ id }) => id === sectionId);
  if (!section) return null;
  const [from, to] = [section.startBeat, endOf(section)],
    draft = cutEverywhere(project, [from, to], newId);
  for (const [trackId, clips] of draft)
    draft.set(
      trackId,
      clips.filter((clip) => !liesWithin(clip, from, to)),
    );
  const more: Edit[] = [{ kind: 'remove-section', sectionId }];
  if (closesGap) more.push(...shiftFrom(project, draft, to, -section.lengthBeats, ({ id }) => id === sectionId));
  more.push(
    ...withChords(project, (chord) => {
      if (chord.startBeat >= from && chord.startBeat < to) return [];
      return [closesGap && chord.startBeat >= to ? { ...chord, startBeat: chord.startBeat - section.lengthBeats } : chord];
    }),
  );
  return editTo(project, draft, more);
}

/**
 * A section at another line of the piece, with all that lies in it: what lay between moves up into the place that it leaves.
 * @param toBeat a line between sections: where the section would begin, or, for one that goes later, end
 * @returns null where it would lie where it lies, or within another section
 */
export function moveSection(project: Project, sectionId: string, toBeat: number, newId: NewId): Edit | null {
  const section = project.sections.find(({ id }) => id === sectionId);
  if (!section || project.sections.some((each) => toBeat > each.startBeat + 1e-6 && toBeat < endOf(each) - 1e-6)) return null;
  const [start, end] = [section.startBeat, endOf(section)];
  if (toBeat >= start - 1e-6 && toBeat <= end + 1e-6) return null;
  const isLater = toBeat > end,
    // Two stretches that follow each other change places.
    [from, middle, to] = isLater ? [start, end, toBeat] : [toBeat, start, end],
    draft = cutEverywhere(project, [from, middle, to], newId),
    by = (beat: number): number => {
      if (beat >= from - 1e-6 && beat < middle - 1e-6) return to - middle;
      return beat >= middle - 1e-6 && beat < to - 1e-6 ? from - middle : 0;
    },
    moved = <T extends { readonly startBeat: number }>(each: T): T => {
      const beats = by(each.startBeat);
      return beats === 0 ? each : { ...each, startBeat: each.startBeat + beats };
    };
  for (const [trackId, clips] of draft) draft.set(trackId, clips.map(moved));
  return editTo(project, draft, [
    ...project.sections.flatMap((each): Edit[] => {
      const next = moved(each);
      return next === each ? [] : [{ kind: 'set-section', sectionId: each.id, changes: { startBeat: next.startBeat } }];
    }),
    ...withChords(project, (chord) => [moved(chord)]),
  ]);
}

/** A section in the place of its neighbour, with all that lies in both. @returns null where there is none beside it */
export function swapSection(project: Project, sectionId: string, by: 1 | -1, newId: NewId): Edit | null {
  const at = project.sections.findIndex(({ id }) => id === sectionId),
    section = project.sections[at],
    beside = project.sections[at + by];
  if (!section || !beside || Math.abs(by > 0 ? endOf(section) - beside.startBeat : endOf(beside) - section.startBeat) > 1e-6) return null;
  return moveSection(project, sectionId, by > 0 ? endOf(beside) : beside.startBeat, newId);
}

/** How a section becomes longer: what lies in its middle bars again, all of it again, or room that is left empty. */
export type Lengthening = 'middle' | 'all' | 'empty';

/**
 * The bars of a section of so many that are played again when it becomes longer by the middle: the first and the last stay what they are.
 * @param middleFrom the first of the bars that come again, from 0; left out, they are the ones before the last
 * @returns bars of the old section, from 0, for each bar of the new one; −1 for an empty one
 */
export function barsLengthened(oldBars: number, newBars: number, how: Lengthening, middleFrom?: number): number[] {
  if (newBars <= oldBars) return Array.from({ length: newBars }, (_, bar) => (how === 'middle' && bar === newBars - 1 ? oldBars - 1 : bar));
  const added = newBars - oldBars;
  if (how === 'empty') return Array.from({ length: newBars }, (_, bar) => (bar < oldBars ? bar : -1));
  if (how === 'all' || oldBars < 3) return Array.from({ length: newBars }, (_, bar) => bar % oldBars);
  const count = middleCount(oldBars, newBars),
    from = Math.max(1, Math.min(oldBars - 1 - count, middleFrom ?? oldBars - 1 - count)),
    again = Array.from({ length: added }, (_, k) => from + (k % count));
  return [
    ...Array.from({ length: from + count }, (_, bar) => bar),
    ...again,
    ...Array.from({ length: oldBars - from - count }, (_, bar) => from + count + bar),
  ];
}

/** How many bars come again when a section becomes longer by the middle. */
export const middleCount = (oldBars: number, newBars: number): number => Math.min(oldBars - 2, newBars - oldBars);

/** Makes a section so many bars long. What lies behind moves along. */
export function resizeSection(
  project: Project,
  sectionId: string,
  newBars: number,
  how: Lengthening,
  barBeats: number,
  newId: NewId,
  middleFrom?: number,
): Edit | null {
  const section = project.sections.find(({ id }) => id === sectionId);
  if (!section || newBars < 1) return null;
  const oldBars = Math.max(1, Math.round(section.lengthBeats / barBeats)),
    [from, to] = [section.startBeat, endOf(section)],
    plan = barsLengthened(oldBars, newBars, how, middleFrom),
    by = newBars * barBeats - section.lengthBeats,
    draft = cutEverywhere(
      project,
      Array.from({ length: oldBars + 1 }, (_, bar) => from + bar * barBeats),
      newId,
    ),
    inside = new Map([...draft].map(([trackId, clips]) => [trackId, clips.filter((clip) => liesWithin(clip, from, to))]));
  for (const [trackId, clips] of draft)
    draft.set(
      trackId,
      clips.filter((clip) => !liesWithin(clip, from, to)),
    );
  const more = shiftFrom(project, draft, to, by, ({ id }) => id === sectionId);
  for (const [trackId, clips] of inside) {
    const used = new Set<string>();
    for (const [bar, old] of plan.entries()) {
      const start = from + old * barBeats;
      for (const clip of old < 0 ? [] : clips.filter((each) => liesWithin(each, start, start + barBeats))) {
        draft
          .get(trackId)
          ?.push({ ...clip, id: used.has(clip.id) ? newId() : clip.id, startBeat: clip.startBeat + (bar - old) * barBeats });
        used.add(clip.id);
      }
    }
    draft.set(trackId, healed(draft.get(trackId) ?? []));
  }
  more.push({ kind: 'set-section', sectionId, changes: { lengthBeats: newBars * barBeats } });
  more.push(
    ...withChords(project, (chord) => {
      if (chord.startBeat >= to) return [{ ...chord, startBeat: chord.startBeat + by }];
      if (chord.startBeat < from) return [chord];
      const bar = Math.floor((chord.startBeat - from) / barBeats);
      return plan.flatMap((old, place) => (old === bar ? [{ ...chord, startBeat: chord.startBeat + (place - old) * barBeats }] : []));
    }),
  );
  return editTo(project, draft, more);
}

/** Parts that were one and follow each other still are one again. */
function healed(clips: readonly Clip[]): Clip[] {
  const out: Clip[] = [];
  for (const clip of [...clips].sort((a, b) => a.startBeat - b.startBeat)) {
    const last = out.at(-1);
    if (last && followsOn(last, clip, last.offsetBeats + last.lengthBeats)) out[out.length - 1] = joined(last, clip);
    else out.push(clip);
  }
  return out;
}

/** When each of some tracks comes in, or goes, in bars from the start of a section. */
export interface Entry {
  readonly trackId: string;
  readonly bar: number;
}

/**
 * Entries every so many bars, the thinnest first (four by common practice: bars 1, 5, 9, 13 of 16).
 * @param densityOf hits a beat of what a track plays there; what is not known comes last
 */
export function entriesOf(
  trackIds: readonly string[],
  everyBars: number,
  sectionBars: number,
  densityOf: (trackId: string) => number | null,
): Entry[] {
  return [...trackIds]
    .sort((a, b) => (densityOf(a) ?? Infinity) - (densityOf(b) ?? Infinity))
    .map((trackId, k) => ({ trackId, bar: Math.min(k * everyBars, Math.max(0, sectionBars - 1)) }));
}

/** Builds a section up, or thins it out: before it enters, or behind where it goes, a track is silent there. */
export function applyEntries(
  project: Project,
  section: Section,
  entries: readonly Entry[],
  way: 'in' | 'out',
  barBeats: number,
  newId: NewId,
): Edit | null {
  const draft = draftOf(project);
  for (const { trackId, bar } of entries) {
    const [from, to] =
      way === 'in' ? [section.startBeat, section.startBeat + bar * barBeats] : [endOf(section) - bar * barBeats, endOf(section)];
    if (to <= from) continue;
    draft.set(
      trackId,
      cutAt(draft.get(trackId) ?? [], [from, to], newId).filter((clip) => !liesWithin(clip, from, to)),
    );
  }
  return editTo(project, draft);
}
