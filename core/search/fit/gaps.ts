import type { Family } from '../../theory/instruments';
import type { Scene } from './scene';

/** Something that a piece usually has (common practice), and by which families. */
const places: readonly { readonly label: string; readonly families: readonly Family[] }[] = [
  { label: 'drums', families: ['drums'] },
  { label: 'percussion', families: ['percussion'] },
  { label: 'a bass', families: ['bass'] },
  { label: 'chords', families: ['keys', 'guitar', 'strings', 'synth-pad', 'mallet'] },
  { label: 'a line on top', families: ['voice', 'brass', 'wind', 'synth-lead'] },
];

/** Registers by their bands, and the brightness (octaves above 50 Hz) of what lies mostly in them. */
const registers: readonly {
  readonly label: string;
  readonly bands: readonly number[];
  readonly brightness: { readonly from: number; readonly to: number };
}[] = [
  { label: 'the bottom', bands: [0], brightness: { from: 0, to: 3 } },
  { label: 'the middle', bands: [1, 2, 3], brightness: { from: 3, to: 5 } },
  { label: 'the top', bands: [6, 7, 8, 9], brightness: { from: 5.5, to: 10 } },
];

/** Less than this share of the energy in a register is room. */
const roomBelow = 0.02;

export interface GapFound {
  readonly label: string;
  readonly families: readonly Family[];
  readonly brightness: { readonly from: number; readonly to: number } | null;
}

/** Which instruments and which registers are missing from what sounds; nothing where nothing sounds. */
export function gapsOf(scene: Scene, sounding: readonly (Family | null)[]): GapFound[] {
  if (sounding.length === 0 || sounding.includes('mix')) return [];
  const missing = places
      .filter(({ families }) => !families.some((family) => sounding.includes(family)))
      .map((each) => ({ ...each, brightness: null })),
    { bands } = scene,
    empty = bands === null ? [] : registers.filter((register) => register.bands.reduce((sum, band) => sum + bands[band], 0) < roomBelow);
  return [...missing, ...empty.map(({ label, brightness }) => ({ label, families: [], brightness }))];
}
