import { X } from 'lucide-react';
import type { LoopQuery, Near } from '~core/search/query';

const likeParts = ['sound', 'rhythm', 'harmony'] as const;

const said = (near: Near, name: string): string => {
  switch (near.kind) {
    case 'like':
    case 'sound':
      return `More like ${name}`;
    case 'with':
    case 'tracks':
      return `Goes with ${name}`;
    case 'than':
      return `${near.way[0].toUpperCase()}${near.way.slice(1)} than ${name}`;
    case 'tapped':
      return `Plays like ${near.atMs.length} taps`;
  }
};

/** What the list is to be near to; the shares of sound, rhythm and harmony; and the way back. */
export function NearBar({
  query,
  name,
  onChange,
}: {
  query: LoopQuery;
  name: string;
  onChange: (changes: Partial<LoopQuery>, replace?: boolean) => void;
}) {
  const { near } = query;
  if (!near) return null;
  return (
    <div
      className="flex h-9 shrink-0 items-center gap-4 border-b border-base-300 bg-base-200 px-3"
      role="group"
      aria-label="What the list is near to"
    >
      <strong className="min-w-0 truncate">{said(near, name)}</strong>
      {(near.kind === 'like' || near.kind === 'sound') &&
        likeParts.map((part) => (
          <label key={part} className="flex items-center gap-1.5">
            <span>{part}</span>
            <input
              type="range"
              className="range range-xs w-24"
              min={0}
              max={1}
              step={0.25}
              value={near[part]}
              onChange={(event) => {
                const next = { ...near, [part]: Number(event.target.value) };
                if (next.sound + next.rhythm + next.harmony > 0) onChange({ near: next }, true);
              }}
            />
          </label>
        ))}
      <button className="btn btn-ghost btn-xs ml-auto" onClick={() => onChange({ near: null, sort: 'added', descending: true })}>
        <X className="size-3.5" aria-hidden="true" /> all loops again
      </button>
    </div>
  );
}
