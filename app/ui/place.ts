import { createContext, useContext } from 'react';
import type { Treatment } from '~core/arrangement/treatment';
import type { LoopRow } from '~server/services/loop-rows';

/** Where a loop was dropped, or is to be placed; open parts are asked for. */
export interface PlaceWish {
  readonly row: LoopRow;
  readonly trackId?: string;
  readonly startBeat?: number;
  /** What was found while auditioning; left out: what the candidate has, when it is the same loop. Switches and level are the tray's. */
  readonly treatment?: Treatment;
  readonly offsetBeats?: number;
  /** Whether the shortlist is emptied with it. */
  readonly dropShortlist?: boolean;
}

export const PlaceContext = createContext<(wish: PlaceWish) => void>(() => {});

/** Opens the placing of a loop from any page. */
export const usePlace = (): ((wish: PlaceWish) => void) => useContext(PlaceContext);
