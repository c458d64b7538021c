import { useRef } from 'react';
import { useLive } from '~/ui/live';
import { useRoomNavigate } from '~/ui/room-link';
import { fetchMakings } from '~/ui/sheet/making-api';
import { toast } from '~/ui/toast';

/** Says on every page what became of a loop that one has had made. */
export function Makings(): null {
  const navigate = useRoomNavigate(),
    told = useRef(new Set<number>());
  useLive('making', ({ makingId }) => {
    void fetchMakings([makingId]).then(([made]) => {
      if (!made || (made.state !== 'done' && made.state !== 'failed')) return;
      // That it is worked on is told too, and may be asked about only when it is there.
      if (told.current.has(makingId)) return;
      told.current.add(makingId);
      if (made.state === 'failed') toast.error(`“${made.name}” could not be made: ${made.message ?? ''}`);
      else if (made.loopId !== null)
        toast([`“${made.name}” is in the library.`, made.message ?? ''].join(' ').trim(), {
          action: { label: 'Open', onClick: () => navigate(`/loops/${made.loopId}`) },
        });
    });
  });
  return null;
}
