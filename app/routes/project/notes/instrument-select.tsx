import { families, instruments, instrumentById, playedAs, type Family } from '~core/theory/instruments';
import { hasOwnVoice } from '~core/synth/note-voices';

const playable = instruments.filter(({ id }) => hasOwnVoice(id)),
  byFamily = (Object.keys(families) as Family[])
    .map((family) => ({ family, list: playable.filter((each) => each.family === family) }))
    .filter(({ list }) => list.length > 0);

/** By which instrument notes are played. All of them are made here, by calculation: none is a recording. */
export function InstrumentSelect({ value, onChange }: { value: string | null; onChange: (instrument: string) => void }) {
  const played = value === null ? null : playedAs(value),
    known = played !== null && hasOwnVoice(played);
  return (
    <select
      className="select select-xs w-40"
      aria-label="Instrument"
      title="Played by instruments that are made here by calculation; none is a recording"
      value={known ? played : ''}
      onChange={({ target }) => onChange(target.value)}
    >
      {!known && <option value="">{value === null ? 'plain keys' : `${instrumentById(value)?.label ?? value}, as plain keys`}</option>}
      {byFamily.map(({ family, list }) => (
        <optgroup key={family} label={families[family].label}>
          {list.map(({ id, label }) => (
            <option key={id} value={id}>
              {label}
            </option>
          ))}
        </optgroup>
      ))}
    </select>
  );
}
