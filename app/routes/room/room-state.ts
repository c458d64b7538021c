import { describeFit } from '~core/arrangement/fit-request';
import { instrumentById } from '~core/theory/instruments';
import { digitOf, entryAt } from '~/audio/shortlist';
import type { EngineState } from '~/audio/store';
import { keyText, tempoText } from '~/ui/format';
import type { WholeLoop } from '~contracts/whole-loop';
import type { RoomState } from '~contracts/remote';

const factsOf = ({ source, packName }: WholeLoop): string =>
  [
    instrumentById(source.instrument)?.label,
    source.tempoBpm === null ? null : `${tempoText(source.tempoBpm)} BPM`,
    source.key && keyText(source),
    // A recording and its notes as MIDI often have one name, and lie beside each other.
    source.media === 'midi' ? 'MIDI' : null,
    packName,
  ]
    .filter(Boolean)
    .join(' · ')
    .slice(0, 160);

/** What a remote is told; blind, nothing in it says which loop sounds. `ticket` is the number by which the remote means what it shows. */
export function roomState({ candidate, shortlist, playing, handsFree }: EngineState, ticket: number | null): RoomState {
  const digit = candidate ? digitOf(shortlist, candidate.row.id) : null,
    hidden = shortlist.blind !== null && digit !== null;
  return {
    ticket,
    title: candidate && (hidden ? `Number ${digit}` : candidate.row.title.slice(0, 120)),
    words: candidate
      ? hidden
        ? 'names are hidden'
        : `${candidate.alone ? 'as recorded' : describeFit(candidate.fitted)} · ${candidate.phase}`
      : '',
    facts: candidate && !hidden ? factsOf(candidate.row) : '',
    playing,
    handsFree: handsFree !== null,
    blind: shortlist.blind !== null,
    shortlist: shortlist.entries.map((_, k) => (shortlist.blind ? '?' : (entryAt(shortlist, k + 1)?.row.title.slice(0, 80) ?? ''))),
    digit,
  };
}
