import { useState } from 'react';
import type { Track } from '~core/arrangement/tree';
import { headWidth } from './measures';

/** Tracks that are set aside: folded away, silent, and back by one press. */
export function AsideTracks({ tracks, onBack }: { tracks: readonly Track[]; onBack: (trackId: string) => void }) {
  const [isOpen, setOpen] = useState(false),
    aside = tracks.filter((track) => track.setAside);
  if (aside.length === 0) return null;
  return (
    <section aria-label="Set aside" className="sticky left-0 border-t border-base-300 px-3 py-1.5" style={{ width: headWidth * 2 }}>
      <button className="btn btn-ghost btn-xs" aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
        {isOpen ? '▾' : '▸'} Set aside: {aside.length} {aside.length === 1 ? 'track' : 'tracks'}
      </button>
      {isOpen && (
        <ul className="mt-1 grid gap-1">
          {aside.map((track) => (
            <li key={track.id} className="flex items-center gap-2">
              <span className="h-4 w-2 rounded-sm" style={{ background: `var(--track-${track.colour})` }} />
              <span className="min-w-0 flex-1 truncate">{track.name}</span>
              <span className="quiet">
                {track.clips.length} {track.clips.length === 1 ? 'clip' : 'clips'}
              </span>
              <button className="btn btn-xs" onClick={() => onBack(track.id)}>
                Back<span className="sr-only"> with {track.name}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
