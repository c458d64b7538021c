import { useLive } from '~/ui/live';
import { useRoomNavigate } from '~/ui/room-link';
import { fetchMakings } from '~/ui/sheet/making-api';
import { toast } from '~/ui/toast';

/** Says on every page what became of a loop that one has had made. */
export function Makings(): null {
  const navigate = useRoomNavigate();
  useLive('making', ({ makingId }) => {
    void fetchMakings([makingId]).then(([made]) => {
      if (made?.state === 'failed') toast.error(`“${made.name}” could not be made: ${made.message ?? ''}`);
      if (made?.state === 'done' && made.loopId !== null)
        toast([`“${made.name}” is in the library.`, made.message ?? ''].join(' ').trim(), {
          action: { label: 'Open', onClick: () => navigate(`/loops/${made.loopId}`) },
        });
    });
  });
  return null;
}
