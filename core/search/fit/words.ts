import { licenceUseWords } from '../../library/licence';
import { coarseCosts } from './coarse';
import type { FitInParts } from './score';
import { fitParts, type FitPart } from './weights';

/** Ten bands of equal width in mel, in words: up to about 200 Hz, 800 Hz, 2.5 kHz, and above. */
const registerOf = (band: number): string => (band < 1 ? 'bottom' : band < 3 ? 'lower middle' : band < 6 ? 'upper middle' : 'top');

const signed = (semitones: number): string => `${semitones > 0 ? 'up' : 'down'} ${Math.abs(semitones)}`;

const barsInWords = (bars: readonly number[]): string =>
  bars.length === 1 ? `bar ${bars[0] + 1}` : bars.length > 4 ? `${bars.length} bars` : `bars ${bars.map((bar) => bar + 1).join(', ')}`;

/** What each part says of a loop in a few words; null where there is nothing worth a word. */
export function partInWords(part: FitPart, { parts, found }: FitInParts): string | null {
  const { doubt } = parts[part];
  switch (part) {
    case 'stretch':
      if (doubt > 0) return 'tempo unknown';
      if (parts.stretch.points === coarseCosts.unknownTempo) return null;
      return found.stretchOctaves < 0.0008
        ? 'no stretch'
        : `${found.speedPercent < 0 ? '−' : '+'}${Math.abs(found.speedPercent).toFixed(1)} %`;
    case 'shift':
      if (doubt > 0) return 'key unknown';
      return found.shiftSemitones === 0 ? null : signed(found.shiftSemitones);
    case 'harmony':
      if (Number.isNaN(found.inCommon)) return null;
      if (found.rubbingBars.length > 0) return `rubs in ${barsInWords(found.rubbingBars)}`;
      return found.inCommon > 0.6 ? 'plays its chords' : found.rub < 0.12 ? 'no note rubs' : null;
    case 'rhythm':
      if (found.doubled > 0.35) return 'plays the same again';
      if (found.swingApart > 0.05) return 'swings otherwise';
      if (Number.isNaN(found.together)) return null;
      return found.together > 0.55 ? 'same accents' : found.together < -0.1 ? 'fills the gaps' : null;
    case 'room':
      if (Number.isNaN(found.roomy)) return null;
      return found.roomy > 0.5
        ? `fills the ${registerOf(found.mainBand)}`
        : found.roomy < 0.1
          ? `crowds the ${registerOf(found.mainBand)}`
          : null;
    case 'bars':
      return found.unevenBars ? 'does not divide the section' : null;
    case 'meter':
      return found.otherMeter ? 'other meter' : null;
    case 'kin':
      return found.soundsAlready ? 'sounds here already' : found.isSameSet ? 'same set' : found.isSamePack ? 'same pack' : null;
    case 'licence':
      return found.forbidden ? `licence forbids ${licenceUseWords[found.forbidden]}` : null;
  }
}

/** Why a loop belongs or does not, in few words, what weighs most first among what speaks against it. @example 'no stretch · up 2 · fills the top · same set' */
export function fitInWords(fit: FitInParts, most = 4): string {
  const said = fitParts.flatMap((part) => {
      const words = partInWords(part, fit);
      return words === null ? [] : [{ part, words, points: fit.parts[part].points }];
    }),
    always = said.filter(({ part }) => part === 'stretch' || part === 'shift'),
    others = said.filter(({ part }) => part !== 'stretch' && part !== 'shift').sort((a, b) => b.points - a.points);
  return [...always, ...others]
    .slice(0, most)
    .map(({ words }) => words)
    .join(' · ');
}
