import same from 'fast-deep-equal';
import { keyName } from '../theory/key';
import { beatsPerBar } from '../units/time';
import { draftOf, editTo } from './acts/parts';
import { applyEdit, type Edit } from './edit';
import type { Pattern } from './pattern/pattern';
import type { Clip, Project, Track } from './tree';

/** What of `names` differs between two things, as the second has it. */
function changed<T extends object, K extends keyof T>(before: T, after: T, names: readonly K[]): Partial<Pick<T, K>> | null {
  const found = names.filter((name) => !same(before[name], after[name])).map((name) => [name, after[name]]);
  return found.length > 0 ? (Object.fromEntries(found) as Partial<Pick<T, K>>) : null;
}

const headNames = ['name', 'tempoBpm', 'key', 'meter', 'masterGainDb'] as const,
  trackNames = ['name', 'colour', 'gainDb', 'pan', 'muted', 'soloed', 'setAside'] as const,
  sectionNames = ['name', 'startBeat', 'lengthBeats', 'key'] as const,
  patternNames = ['name', 'lengthBeats', 'isDrums', 'instrument', 'key', 'chords', 'fromLoopId'] as const;

/** The edits that make the notes of one pattern those of another. */
function notesBetween(before: Pattern, after: Pattern): Edit | null {
  const was = new Map(before.notes.map((note) => [note.id, note])),
    is = new Set(after.notes.map(({ id }) => id)),
    gone = [...was.keys()].filter((id) => !is.has(id)),
    put = after.notes.filter((note) => !same(was.get(note.id), note));
  return gone.length + put.length > 0 ? { kind: 'change-notes', patternId: before.id, gone, put } : null;
}

/** The edit that makes one project of another, as one step; null where they are the same. */
export function editBetween(before: Project, after: Project): Edit | null {
  const edits: Edit[] = [];
  let current = before;
  const put = (edit: Edit | null) => {
    if (!edit) return;
    current = applyEdit(current, edit).project;
    edits.push(...(edit.kind === 'batch' ? edit.edits : [edit]));
  };
  const head = changed(before, after, headNames);
  if (head) put({ kind: 'set-project', changes: head });
  // Tracks first, each empty where it is new: a clip may have gone from one to another.
  for (const [index, wanted] of after.tracks.entries()) {
    const at = current.tracks.findIndex(({ id }) => id === wanted.id);
    if (at < 0) put({ kind: 'add-track', index, track: { ...wanted, clips: [] } });
    else if (at > index) {
      const moved = current.tracks[at];
      put({ kind: 'remove-track', trackId: moved.id });
      put({ kind: 'add-track', index, track: moved });
    }
    const changes = changed(current.tracks[index], wanted, trackNames);
    if (changes) put({ kind: 'set-track', trackId: wanted.id, changes });
  }
  // Patterns before what plays them; those that go, go last.
  for (const pattern of after.patterns) {
    const was = before.patterns.find(({ id }) => id === pattern.id),
      changes = was && changed(was, pattern, patternNames);
    if (!was) put({ kind: 'add-pattern', pattern });
    else {
      if (changes) put({ kind: 'set-pattern', patternId: pattern.id, changes });
      put(notesBetween(was, pattern));
    }
  }
  const draft = draftOf(current);
  for (const { id } of current.tracks) draft.set(id, [...(after.tracks.find((track) => track.id === id)?.clips ?? [])]);
  put(editTo(current, draft));
  for (const { id } of current.tracks) if (!after.tracks.some((track) => track.id === id)) put({ kind: 'remove-track', trackId: id });
  for (const section of before.sections)
    if (!after.sections.some(({ id }) => id === section.id)) put({ kind: 'remove-section', sectionId: section.id });
  for (const section of after.sections) {
    const was = before.sections.find(({ id }) => id === section.id),
      changes = was && changed(was, section, sectionNames);
    if (!was) put({ kind: 'add-section', section });
    else if (changes) put({ kind: 'set-section', sectionId: section.id, changes });
  }
  if (!same(before.chords, after.chords)) put({ kind: 'set-chords', chords: after.chords });
  for (const { id } of before.patterns)
    if (!after.patterns.some((pattern) => pattern.id === id)) put({ kind: 'remove-pattern', patternId: id });
  return edits.length > 0 ? { kind: 'batch', edits } : null;
}

/** Clips that are not the same in both, by id. */
export function clipsApart(before: Project, after: Project): ReadonlySet<string> {
  const placed = ({ tracks }: Project) =>
      new Map(tracks.flatMap((track) => track.clips.map((clip) => [clip.id, { clip, trackId: track.id }] as const))),
    [first, second] = [placed(before), placed(after)];
  return new Set([...first.keys(), ...second.keys()].filter((id) => !same(first.get(id), second.get(id))));
}

const counted = (count: number, one: string, many: string): string => `${count} ${count === 1 ? one : many}`;

function clipsInWords(before: readonly Clip[], after: readonly Clip[]): string[] {
  const was = new Map(before.map((clip) => [clip.id, clip])),
    is = new Map(after.map((clip) => [clip.id, clip])),
    added = after.filter(({ id }) => !was.has(id)).length,
    gone = before.filter(({ id }) => !is.has(id)).length,
    both = after.flatMap((clip) => {
      const old = was.get(clip.id);
      return old && !same(old, clip) ? [{ old, clip }] : [];
    }),
    moved = both.filter(({ old, clip }) => old.startBeat !== clip.startBeat || old.lengthBeats !== clip.lengthBeats).length,
    other = both.filter(({ old, clip }) => !same(old.content, clip.content)).length,
    treated =
      both.length -
      both.filter(({ old, clip }) =>
        same({ ...old, startBeat: 0, lengthBeats: 0, content: 0 }, { ...clip, startBeat: 0, lengthBeats: 0, content: 0 }),
      ).length;
  return [
    added > 0 ? `${counted(added, 'clip', 'clips')} more` : '',
    gone > 0 ? `${counted(gone, 'clip', 'clips')} gone` : '',
    moved > 0 ? `${counted(moved, 'clip', 'clips')} placed otherwise` : '',
    other > 0 ? `${counted(other, 'clip', 'clips')} with another loop` : '',
    treated > 0 ? `${counted(treated, 'clip', 'clips')} treated otherwise` : '',
  ].filter(Boolean);
}

const db = (value: number): string => `${value > 0 ? '+' : value < 0 ? '−' : ''}${Math.abs(value).toFixed(1)} dB`;

function trackInWords(before: Track, after: Track): string[] {
  return [
    ...clipsInWords(before.clips, after.clips),
    before.name === after.name ? '' : `called “${after.name}”`,
    before.gainDb === after.gainDb ? '' : `gain ${db(before.gainDb)} → ${db(after.gainDb)}`,
    before.pan === after.pan ? '' : 'panned otherwise',
    before.muted === after.muted ? '' : after.muted ? 'muted' : 'no longer muted',
    before.soloed === after.soloed ? '' : after.soloed ? 'soloed' : 'no longer soloed',
    before.setAside === after.setAside ? '' : after.setAside ? 'set aside' : 'back in the piece',
  ].filter(Boolean);
}

/** What differs between two states of a project, from the first to the second, a sentence each. */
export function differencesInWords(before: Project, after: Project): string[] {
  const lines: string[] = [],
    barsOf = ({ startBeat, lengthBeats }: { readonly startBeat: number; readonly lengthBeats: number }, { meter }: Project) => {
      const bar = beatsPerBar(meter);
      return `bars ${Number((startBeat / bar + 1).toFixed(2))}–${Number(((startBeat + lengthBeats) / bar).toFixed(2))}`;
    };
  if (before.name !== after.name) lines.push(`Called “${after.name}”, was “${before.name}”`);
  if (before.tempoBpm !== after.tempoBpm) lines.push(`Tempo ${before.tempoBpm} → ${after.tempoBpm}`);
  if (!same(before.key, after.key))
    lines.push(`Key ${before.key ? keyName(before.key) : 'none'} → ${after.key ? keyName(after.key) : 'none'}`);
  if (before.meter !== after.meter) lines.push(`Meter ${before.meter} → ${after.meter}`);
  if (before.masterGainDb !== after.masterGainDb) lines.push(`Master ${db(before.masterGainDb)} → ${db(after.masterGainDb)}`);
  for (const track of before.tracks)
    if (!after.tracks.some(({ id }) => id === track.id))
      lines.push(`Track gone: ${track.name}, ${counted(track.clips.length, 'clip', 'clips')}`);
  for (const track of after.tracks) {
    const was = before.tracks.find(({ id }) => id === track.id),
      found = was ? trackInWords(was, track) : [];
    if (!was) lines.push(`Track new: ${track.name}, ${counted(track.clips.length, 'clip', 'clips')}`);
    else if (found.length > 0) lines.push(`${was.name}: ${found.join(', ')}`);
  }
  const staying = (project: Project, other: Project) =>
    project.tracks.filter(({ id }) => other.tracks.some((track) => track.id === id)).map(({ id }) => id);
  if (!same(staying(before, after), staying(after, before))) lines.push('Tracks stand in another order');
  for (const section of before.sections)
    if (!after.sections.some(({ id }) => id === section.id)) lines.push(`Section gone: ${section.name}, ${barsOf(section, before)}`);
  for (const section of after.sections) {
    const was = before.sections.find(({ id }) => id === section.id);
    if (!was) lines.push(`Section new: ${section.name}, ${barsOf(section, after)}`);
    else if (!same(was, section))
      lines.push(
        `Section ${was.name}: ${[was.name === section.name ? '' : `called “${section.name}”`, barsOf(was, before) === barsOf(section, after) ? '' : `${barsOf(was, before)} → ${barsOf(section, after)}`, same(was.key ?? null, section.key ?? null) ? '' : section.key ? `in ${keyName(section.key)}` : 'in the key before it'].filter(Boolean).join(', ')}`,
      );
  }
  for (const pattern of after.patterns) {
    const was = before.patterns.find(({ id }) => id === pattern.id),
      notes = was && notesBetween(was, pattern);
    if (!was) lines.push(`Pattern new: ${pattern.name}, ${counted(pattern.notes.length, 'note', 'notes')}`);
    else if (notes?.kind === 'change-notes')
      lines.push(
        `Pattern ${was.name}: ${counted(new Set([...notes.gone, ...notes.put.map(({ id }) => id)]).size, 'note', 'notes')} otherwise`,
      );
    else if (changed(was, pattern, patternNames)) lines.push(`Pattern ${was.name}: otherwise`);
  }
  for (const { id, name } of before.patterns) if (!after.patterns.some((pattern) => pattern.id === id)) lines.push(`Pattern gone: ${name}`);
  if (!same(before.chords, after.chords)) lines.push('Other chords');
  return lines;
}
