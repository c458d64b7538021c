import { api } from './api';
import { toast } from './toast';
import { useSend } from './use-send';

/** Archives a pack with its loops, with a way back; brings one back. */
export function useArchivePack() {
  const send = useSend(),
    bringBack = (packId: number) => send(api.packArchived(packId), 'delete'),
    archive = async (packId: number, name: string) => {
      if (await send(api.packArchived(packId), 'put'))
        toast(`Archived “${name}” with its loops.`, { action: { label: 'Undo', onClick: () => void bringBack(packId) } });
    };
  return { archive, bringBack };
}
