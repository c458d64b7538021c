import { useEffect, useRef, useState } from 'react';
import { attributeRow } from '~core/analysis/attributes/registry';
import type { PackFor, Sheet } from '~contracts/making';
import { fetchOwnPacks, fetchTags, type OwnPack } from './making-api';
import { TagsField } from './tags-field';

type Said = Omit<Sheet, 'name'>;

/** A choice of one of the values of an attribute, or of none. */
function Choice({
  attribute,
  label,
  none,
  value,
  onChange,
}: {
  attribute: 'instrument' | 'setRole';
  label: string;
  none: string;
  value: string | null;
  onChange: (value: string | null) => void;
}) {
  return (
    <label className="flex min-w-0 flex-col gap-0.5">
      <span className="caps">{label}</span>
      <select className="select select-sm w-full" value={value ?? ''} onChange={({ target }) => onChange(target.value || null)}>
        <option value="">{none}</option>
        {attributeRow(attribute).choices?.map((each) => (
          <option key={each.value} value={each.value}>
            {each.label}
          </option>
        ))}
      </select>
    </label>
  );
}

/** Values beside each other, added from a choice and taken away by a click. */
function Several({
  attribute,
  label,
  values,
  onChange,
}: {
  attribute: 'genre' | 'character';
  label: string;
  values: readonly string[];
  onChange: (values: readonly string[]) => void;
}) {
  const choices = attributeRow(attribute).choices ?? [],
    nameOf = (value: string) => choices.find((each) => each.value === value)?.label ?? value;
  return (
    <div className="flex min-w-0 flex-col gap-0.5">
      <span className="caps">{label}</span>
      <span className="flex flex-wrap items-center gap-1">
        {values.map((value) => (
          <button
            key={value}
            type="button"
            className="btn btn-xs"
            aria-label={`${nameOf(value)}: take it away`}
            onClick={() => onChange(values.filter((each) => each !== value))}
          >
            {nameOf(value)} ×
          </button>
        ))}
        <select
          className="select select-xs w-28"
          aria-label={`Another ${label.toLowerCase()}`}
          value=""
          onChange={({ target }) => target.value && onChange([...values, target.value])}
        >
          <option value="">{values.length === 0 ? 'by ear' : 'another …'}</option>
          {choices
            .filter(({ value }) => !values.includes(value))
            .map((each) => (
              <option key={each.value} value={each.value}>
                {each.label}
              </option>
            ))}
        </select>
      </span>
    </div>
  );
}

/** What is said of all that is given to the library at once; what is left open is heard. */
export function SheetFields({
  said,
  onChange,
  madeOf,
  withRole = true,
}: {
  said: Said;
  onChange: (said: Said) => void;
  /** The loops that it is made of: by them tags are offered. */
  madeOf: readonly number[];
  withRole?: boolean;
}) {
  const [offered, setOffered] = useState<readonly string[]>([]),
    ids = madeOf.join(' ');
  useEffect(() => {
    let gone = false;
    void fetchTags(ids === '' ? [] : ids.split(' ').map(Number)).then((tags) => gone || setOffered(tags));
    return () => {
      gone = true;
    };
  }, [ids]);
  const set = (changes: Partial<Said>) => onChange({ ...said, ...changes });
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-2 sm:grid-cols-3">
      <label className="flex min-w-0 flex-col gap-0.5">
        <span className="caps">Kind</span>
        <select
          className="select select-sm w-full"
          value={said.kind ?? 'loop'}
          onChange={({ target }) => set({ kind: target.value as Said['kind'] })}
        >
          <option value="loop">loop: goes round</option>
          <option value="phrase">phrase: plays once</option>
          <option value="one-shot">one-shot</option>
        </select>
      </label>
      <Choice
        attribute="instrument"
        label="Instrument"
        none="by ear"
        value={said.instrument}
        onChange={(instrument) => set({ instrument })}
      />
      {withRole && (
        <Choice attribute="setRole" label="Part of its set" none="none" value={said.setRole} onChange={(setRole) => set({ setRole })} />
      )}
      <Several attribute="genre" label="Genre" values={said.genre} onChange={(genre) => set({ genre })} />
      <Several attribute="character" label="Character" values={said.character} onChange={(character) => set({ character })} />
      <TagsField tags={said.tags} offered={offered} onChange={(tags) => set({ tags })} />
      <label className="flex min-w-0 flex-col gap-0.5">
        <span className="caps">Set</span>
        <input
          className="input input-sm w-full"
          value={said.setName}
          placeholder="none"
          onChange={({ target }) => set({ setName: target.value })}
        />
      </label>
      {said.kind !== 'one-shot' && (
        <label className="flex min-w-0 flex-col gap-0.5">
          <span className="caps">Chords, one a bar</span>
          <input
            className="input input-sm w-full"
            placeholder="as known, or by ear"
            value={said.chords}
            onChange={({ target }) => set({ chords: target.value })}
          />
        </label>
      )}
      {said.kind !== 'loop' && (
        <label className="flex min-w-0 flex-col gap-0.5">
          <span className="caps">Lands, seconds in</span>
          <input
            type="number"
            min={0}
            step={0.01}
            className="input input-sm w-full"
            placeholder="by ear"
            value={said.landingSeconds ?? ''}
            onChange={({ target }) => set({ landingSeconds: target.value === '' ? null : target.valueAsNumber })}
          />
        </label>
      )}
    </div>
  );
}

/** Into which of the group's own packs it goes. */
export function PackChoice({ pack, onChange }: { pack: PackFor; onChange: (pack: PackFor) => void }) {
  const [packs, setPacks] = useState<readonly OwnPack[]>([]),
    isSaid = useRef(false),
    say = (changes: Partial<PackFor>) => {
      isSaid.current = true;
      onChange({ ...pack, ...changes });
    };
  useEffect(() => {
    let gone = false;
    void fetchOwnPacks().then((found) => {
      if (gone) return;
      setPacks(found);
      // What was given last went there; not where something else was said while the packs were on their way.
      if (found[0] && !isSaid.current) onChange({ ...pack, packId: found[0].id });
    });
    return () => {
      gone = true;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- asked once, when it is shown
  }, []);
  const text = (name: 'name' | 'vendor' | 'licence', label: string) => (
    <label className="flex min-w-0 flex-col gap-0.5">
      <span className="caps">{label}</span>
      <input
        className="input input-sm w-full"
        required={name === 'name'}
        maxLength={name === 'licence' ? 300 : 120}
        value={pack[name]}
        onChange={({ target }) => say({ [name]: target.value })}
      />
    </label>
  );
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-2 sm:grid-cols-4">
      <label className="flex min-w-0 flex-col gap-0.5">
        <span className="caps">Into the pack</span>
        <select
          className="select select-sm w-full"
          value={pack.packId ?? ''}
          onChange={({ target }) => say({ packId: target.value === '' ? null : Number(target.value) })}
        >
          <option value="">a new one of ours</option>
          {packs.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      {pack.packId === null && (
        <>
          {text('name', 'Its name')}
          {text('vendor', 'Made by')}
          {text('licence', 'Licence')}
        </>
      )}
    </div>
  );
}
