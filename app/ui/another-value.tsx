import { useState } from 'react';
import { loopKinds, type Attribute } from '~core/analysis/facts';
import { instruments } from '~core/theory/instruments';
import { allKeys, keyName } from '~core/theory/key';
import { meters } from '~core/units/time';
import { factLabels } from '~/ui/fact-words';
import { keyCode, keylessOptions } from '~/ui/format';

/** A way to say anything that is not among the answers: a choice where there are few, else a field. */
export function AnotherValue({ attribute, onCorrect }: { attribute: Attribute; onCorrect: (attribute: Attribute, value: string) => void }) {
  const [text, setText] = useState('');
  const options =
    attribute === 'key'
      ? [...keylessOptions, ...allKeys.map((key) => ({ value: keyCode(key), label: keyName(key) }))]
      : attribute === 'instrument'
        ? instruments.map(({ id, label }) => ({ value: id, label }))
        : attribute === 'kind'
          ? Object.entries(loopKinds).map(([value, label]) => ({ value, label }))
          : attribute === 'meter'
            ? meters.map((value) => ({ value, label: value }))
            : null;
  if (options)
    return (
      <select
        className="select select-xs w-auto"
        aria-label={`Another ${factLabels[attribute].toLowerCase()}`}
        value=""
        onChange={(event) => event.target.value && onCorrect(attribute, event.target.value)}
      >
        <option value="">another …</option>
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.label}
          </option>
        ))}
      </select>
    );
  return (
    <form
      className="inline-flex gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim()) onCorrect(attribute, text.trim());
        setText('');
      }}
    >
      <input
        className="input input-xs w-20"
        inputMode="decimal"
        aria-label={
          attribute === 'tempo' ? 'Another tempo' : attribute === 'start' ? 'Another start of bar 1, in seconds' : 'Another number of beats'
        }
        placeholder={attribute === 'start' ? 'seconds' : attribute}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <button className="btn btn-xs">set</button>
    </form>
  );
}
