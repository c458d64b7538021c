import { createContext, useContext } from 'react';
import type { LoopRow } from '~server/services/loop-rows';

/** Where a loop was dropped, or is to be placed; open parts are asked for. */
export interface PlaceWish {
  readonly row: LoopRow;
  readonly trackId?: string;
  readonly startBeat?: number;
}

export const PlaceContext = createContext<(wish: PlaceWish) => void>(() => {});

/** Opens the placing of a loop from any page. */
export const usePlace = (): ((wish: PlaceWish) => void) => useContext(PlaceContext);
