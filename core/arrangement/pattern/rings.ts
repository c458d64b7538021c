/** How long an instrument rings at the most behind a note that is let go, in seconds; what is not named here is silent sooner. */
const rings: Readonly<Record<string, number>> = {
  'synth-pad': 1.3,
  harp: 1.3,
  koto: 1,
  bells: 2.1,
  vibraphone: 2.7,
  glockenspiel: 2.1,
  celesta: 1.9,
  'music-box': 1.7,
  'steel-pan': 1.5,
  'tubular-bells': 2.1,
  timpani: 2.3,
  xylophone: 1,
  impact: 2.8,
  kalimba: 1.2,
  marimba: 0.8,
};

const plainRing = 0.6,
  kitRing = 2.2;

/** The same for an instrument, or for the kit. */
export const ringSeconds = (instrument: string | null, isDrums: boolean): number =>
  isDrums ? kitRing : (rings[instrument ?? ''] ?? plainRing);
