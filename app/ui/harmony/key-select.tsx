import { allKeys, churchModes, keyCode, keyName, parseKeyCode, type Key } from '~core/theory/key';

/** Keys to choose from: major and minor, and the church modes below. */
export function KeySelect({
  label,
  value,
  none = 'no key',
  onChange,
  className = 'select-sm w-36',
}: {
  label: string;
  value: Key | null;
  none?: string;
  onChange: (key: Key | null) => void;
  className?: string;
}) {
  return (
    <select
      className={`select ${className}`}
      aria-label={label}
      value={value ? keyCode(value) : 'none'}
      onChange={({ target }) => onChange(parseKeyCode(target.value))}
    >
      <option value="none">{none}</option>
      <optgroup label="Major and minor">
        {allKeys.map((key) => (
          <option key={keyCode(key)} value={keyCode(key)}>
            {keyName(key)}
          </option>
        ))}
      </optgroup>
      {churchModes.map((mode) => (
        <optgroup key={mode.church} label={`${mode.church} (${mode.mode} third)`}>
          {Array.from({ length: 12 }, (_, tonic): Key => ({ tonic, ...mode })).map((key) => (
            <option key={keyCode(key)} value={keyCode(key)}>
              {keyName(key)}
            </option>
          ))}
        </optgroup>
      ))}
    </select>
  );
}
