/** A slider of per cent with its name and value. */
export function Range({ label, value, unit, onChange }: { label: string; value: number; unit: string; onChange: (value: number) => void }) {
  return (
    <label className="mt-2 flex items-center gap-2">
      <span className="caps w-20">{label}</span>
      <input
        type="range"
        className="range range-xs flex-1"
        min={0}
        max={100}
        value={value}
        onChange={({ target }) => onChange(target.valueAsNumber)}
      />
      <span className="w-12 text-right">
        {value} {unit}
      </span>
    </label>
  );
}
