/** What is weighed when a loop is to belong to a project, in the order in which it is said. */
export const fitParts = ['stretch', 'shift', 'harmony', 'rhythm', 'room', 'bars', 'meter', 'kin', 'licence'] as const;
export type FitPart = (typeof fitParts)[number];

/** How heavy each part is: 0 leaves it out, 1 is usual, 2 is twice as heavy. */
export type FitWeights = Readonly<Record<FitPart, number>>;
export const usualWeights: FitWeights = { stretch: 1, shift: 1, harmony: 1, rhythm: 1, room: 1, bars: 1, meter: 1, kin: 1, licence: 1 };

/** What each part asks, for the sliders. */
export const fitPartWords: Readonly<Record<FitPart, { readonly label: string; readonly asks: string }>> = {
  stretch: { label: 'Stretch', asks: 'How far its speed has to change, read half or double where that is less' },
  shift: { label: 'Shift', asks: 'How far its pitch has to move, and what that does to its register' },
  harmony: { label: 'Harmony', asks: 'How its notes stand to the project’s, bar by bar, once moved' },
  rhythm: { label: 'Rhythm', asks: 'Whether its accents go with what sounds, or play the same again' },
  room: { label: 'Room', asks: 'Whether it fills a register that is free' },
  bars: { label: 'Bars', asks: 'Whether its length divides the section' },
  meter: { label: 'Meter', asks: 'Whether its bars are as long as the project’s' },
  kin: { label: 'Kin', asks: 'Whether it is of a set or pack that sounds already' },
  licence: { label: 'Licence', asks: 'Whether its licence leaves room for the work' },
};

/**
 * What the parts cost, in points: a score is 100 · e^−points, so that 0.1 points are ten in a hundred. Set by ear and by hand on the demo library
 * and by `npm run bench:fit`.
 */
export const costs = {
  /** Of a semitone of shift that takes a bass or a voice out of its register, and of each beyond four for all else. */
  register: 0.05,
  /** Of notes that rub as hard as can be, and of none in common. */
  rub: 1.6,
  nothingInCommon: 0.3,
  /** Of having no notes where the project has some: it cannot rub, but nothing of it agrees either. */
  noHarmony: 0.35,
  /** Of accents that go against those that sound; of the same played again in the same register; of swing against straight. */
  against: 0.3,
  doubled: 0.5,
  swing: 0.4,
  /** Of all energy lying where all energy lies. */
  masked: 0.45,
  unevenBars: 0.15,
  otherMeter: 1.2,
  otherPack: 0.06,
  otherSet: 0.04,
  /** Of sounding there already: what is looked for is something else. */
  soundsAlready: 0.3,
  licenceForbids: 0.5,
  licenceUnknown: 0.05,
  /** What each part may cost at most where it is not known; half of it is reckoned. */
  unknownMost: { harmony: 0.5, rhythm: 0.2, room: 0.2, bars: 0.15, meter: 0.3 },
} as const;
