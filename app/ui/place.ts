import { createContext, useContext } from 'react';
import type { ClipOverrides } from '~core/arrangement/fit-settings';
import type { WholeLoop } from '~contracts/whole-loop';

/** Where a loop was dropped, or is to be placed; open parts are asked for. */
export interface PlaceRequest {
  readonly row: WholeLoop;
  readonly trackId?: string;
  readonly startBeat?: number;
  /** What was found while auditioning; left out: what the candidate has, when it is the same loop. Switches and level are the tray's. */
  readonly overrides?: ClipOverrides;
  readonly offsetBeats?: number;
  /** Whether the shortlist is emptied with it. */
  readonly dropShortlist?: boolean;
}

export const PlaceContext = createContext<(request: PlaceRequest) => void>(() => {});

/** Opens the placing of a loop from any page. */
export const usePlace = (): ((request: PlaceRequest) => void) => useContext(PlaceContext);
