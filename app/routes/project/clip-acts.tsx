import { Copy, Merge, Music, Repeat, Replace, Scissors, PackagePlus, Shuffle, Trash2, VolumeX } from 'lucide-react';
import { Popover } from '~/ui/popover';
import type { ClipDialog } from './clip-keys';
import type { ClipActs as Acts } from './use-acts';

/** Bars that play and bars that rest, such as are often wanted. */
const patterns: readonly { readonly label: string; readonly plays: readonly boolean[] }[] = [
  { label: 'every other bar', plays: [true, false] },
  { label: 'two bars on, two off', plays: [true, true, false, false] },
  { label: 'three on, one off', plays: [true, true, true, false] },
  { label: 'four on, four off', plays: [true, true, true, true, false, false, false, false] },
  { label: 'the last bar of four', plays: [false, false, false, true] },
];

/** What is most often done to the chosen clips together; the rest is in their menu (right click, or Enter). */
export function ClipActs({ count, acts, onOpen }: { count: number; acts: Acts; onOpen: (dialog: ClipDialog) => void }) {
  return (
    <div
      role="toolbar"
      aria-label="Chosen clips"
      className="flex shrink-0 flex-wrap items-center gap-1.5 border-t border-base-300 bg-base-300 px-3 py-1 text-[0.93rem]"
    >
      <strong className="mr-1" role="status">
        {count === 1 ? '1 clip' : `${count} clips`}
      </strong>
      <button className="btn btn-xs" onClick={acts.cutHere} title="Cut at the playhead (S)">
        <Scissors className="size-3.5" aria-hidden="true" /> Cut here
      </button>
      <button className="btn btn-xs" onClick={acts.join} title="Join what goes on from one to the next (J)">
        <Merge className="size-3.5" aria-hidden="true" /> Join
      </button>
      <button className="btn btn-xs" onClick={acts.toSectionEnd} title="Repeat to the end of the section (E)">
        <Repeat className="size-3.5" aria-hidden="true" /> To the section’s end
      </button>
      <button className="btn btn-xs" onClick={acts.onceMore} title="Repeat once more (R)">
        Once more
      </button>
      <button className="btn btn-xs" onClick={acts.copyBehind} title="Copy behind (Ctrl D)">
        <Copy className="size-3.5" aria-hidden="true" /> Copy behind
      </button>
      <button className="btn btn-xs" onClick={acts.mute} title="Mute, or unmute (M)">
        <VolumeX className="size-3.5" aria-hidden="true" /> Mute
      </button>
      <button className="btn btn-xs" onClick={() => onOpen('notes')} title="Its notes, to be edited (P)">
        <Music className="size-3.5" aria-hidden="true" /> Its notes
      </button>
      <Popover label="Gaps …">
        <h2>Gaps by a pattern</h2>
        <ul className="mt-2 grid gap-1">
          {patterns.map(({ label, plays }) => (
            <li key={label}>
              <button className="btn btn-sm w-full justify-start gap-3" onClick={() => acts.gaps(plays)}>
                <span className="flex gap-0.5" aria-hidden="true">
                  {plays.map((isPlayed, bar) => (
                    <span key={bar} className={`h-3 w-3 rounded-sm border border-base-content ${isPlayed ? 'bg-base-content' : ''}`} />
                  ))}
                </span>
                {label}
              </button>
            </li>
          ))}
        </ul>
      </Popover>
      <button className="btn btn-xs" onClick={acts.breakInRange} title="Silence the range on these tracks">
        Break in the range
      </button>
      <button className="btn btn-xs" onClick={() => onOpen('vary')} title="Others of its set in its repetitions (V)">
        <Shuffle className="size-3.5" aria-hidden="true" /> Variation …
      </button>
      <button className="btn btn-xs" onClick={() => onOpen('instead')} title="Another loop in its place (I)">
        <Replace className="size-3.5" aria-hidden="true" /> Instead …
      </button>
      <button className="btn btn-xs" onClick={() => onOpen('give-back')} title="As a loop of the library (G)">
        <PackagePlus className="size-3.5" aria-hidden="true" /> Give back …
      </button>
      <button className="btn btn-xs ml-auto" onClick={acts.remove} title="Remove (Delete)">
        <Trash2 className="size-3.5" aria-hidden="true" /> Remove
      </button>
    </div>
  );
}
