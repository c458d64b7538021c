/** How long an instrument rings at the most behind a note that is let go, in seconds; what is not named here is silent sooner. */
const rings: Readonly<Record<string, number>> = {
  'synth-pad': 1.3,
  strings: 0.5,
  harp: 1.3,
  bells: 3,
};

const plainRing = 0.6,
  kitRing = 2.2;

/** The same for an instrument, or for the kit. */
export const ringSeconds = (instrument: string | null, isDrums: boolean): number =>
  isDrums ? kitRing : (rings[instrument ?? ''] ?? plainRing);
