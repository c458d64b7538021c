import { useState } from 'react';
import type { Attribute } from '~core/analysis/facts';
import { attributeRow } from '~core/analysis/attributes/registry';
import { OwnInstrumentDialog } from './own-instrument-dialog';
import { factLabel } from '~/ui/fact-words';

const addOwn = 'add-own';

/** A way to say anything that is not among the answers: a choice where there are few, else a field. */
export function AnotherValue({ attribute, onCorrect }: { attribute: Attribute; onCorrect: (attribute: Attribute, value: string) => void }) {
  const [text, setText] = useState(''),
    [isAdding, setAdding] = useState(false);
  const { choices: options, field } = attributeRow(attribute);
  if (options)
    return (
      <>
        <select
          className="select select-xs w-auto"
          aria-label={`Another ${factLabel(attribute).toLowerCase()}`}
          value=""
          onChange={(event) => {
            if (event.target.value === addOwn) setAdding(true);
            else if (event.target.value) onCorrect(attribute, event.target.value);
          }}
        >
          <option value="">another …</option>
          {options.map((option) => (
            <option key={option.value} value={option.value}>
              {option.label}
            </option>
          ))}
          {attribute === 'instrument' && <option value={addOwn}>one of our own …</option>}
        </select>
        {isAdding && (
          <OwnInstrumentDialog
            onClose={() => setAdding(false)}
            onAdded={(id) => {
              setAdding(false);
              onCorrect(attribute, id);
            }}
          />
        )}
      </>
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
        className={`input input-xs ${field.isNumber ? 'w-20' : 'w-56'}`}
        title={field.label}
        inputMode={field.isNumber ? 'decimal' : 'text'}
        aria-label={field.label}
        placeholder={field.placeholder}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <button className="btn btn-xs">set</button>
    </form>
  );
}
