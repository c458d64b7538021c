import type { Scale } from '../../demo/compose/harmony';
import type { Key } from '../../core/theory/key';

export type Material = 'percussive' | 'tonal' | 'mixed' | 'voice';
/** Who plays: our own voices, a sound font, or recorded one-shots placed by the notes. */
export type Source = 'own' | 'font' | 'recorded';

export interface LayerSpec {
  readonly source: Source;
  readonly player: string;
  readonly instrument: string;
  readonly gain: number;
  readonly pattern: number;
  /** Recorded layers: which kit; font layers: which program of the instrument. */
  readonly variant: number;
}

export interface LoopSpec {
  readonly name: string;
  readonly material: Material;
  readonly layers: readonly LayerSpec[];
  readonly tempoBpm: number;
  readonly bars: number;
  readonly swing: number;
  readonly key: Key;
  readonly scale: Scale;
  /** Saturation of the sum: 0 leaves it alone, above 1 is a dense, compressed break. */
  readonly drive: number;
  readonly tone: number;
  /** Kept out while engines were tuned. */
  readonly keptOut: boolean;
}

const layer = (text: string): LayerSpec => {
  // player:instrument:source[:pattern[:gain[:variant]]]
  const [player, instrument, source, pattern = '0', gain = '1', variant = '0'] = text.split(':');
  return { player, instrument, source: source as Source, pattern: Number(pattern), gain: Number(gain), variant: Number(variant) };
};

/** name | material | layers | tempo | bars | swing | drive */
const table = `
four on the floor    | percussive | drums:kit:own:0 | 124 | 2 | 0 | 0
broken beat          | percussive | drums:kit:own:1 | 96 | 2 | 0.1 | 0
half time            | percussive | drums:kit:own:2 | 142 | 2 | 0 | 0
straight rock        | percussive | drums:kit:own:3 | 112 | 2 | 0 | 0
swung ride           | percussive | drums:kit:own:4 | 132 | 2 | 0.5 | 0
fast break           | percussive | drums:kit:own:5 | 168 | 2 | 0 | 0
dense broken break   | percussive | drums:kit:own:1 | 104 | 2 | 0 | 1.4
dense fast break     | percussive | drums:kit:own:5 | 172 | 2 | 0 | 2
dense half time      | percussive | drums:kit:own:2 | 138 | 2 | 0.15 | 1.6
swung hats           | percussive | tops:hats:own:1 | 98 | 2 | 0.6 | 0
straight hats        | percussive | tops:hats:own:3 | 120 | 2 | 0 | 0
conga tumbao         | percussive | conga:conga:own:0 | 108 | 2 | 0 | 0
conga and timbre     | percussive | conga:conga:own:1 | 118 | 2 | 0.1 | 0
cowbells             | percussive | bell:woodblock:own:1 | 126 | 2 | 0 | 0
percussion table     | percussive | table:shaker:own:0 | 102 | 2 | 0.2 | 0
shaker swing         | percussive | shaker:shaker:own:1 | 94 | 2 | 0.4 | 0
font four            | percussive | drums:kit:font:0 | 122 | 2 | 0 | 0
font broken          | percussive | drums:kit:font:1 | 90 | 2 | 0.15 | 0
font swung           | percussive | drums:kit:font:4 | 128 | 2 | 0.5 | 0
font dense           | percussive | drums:kit:font:5 | 164 | 2 | 0 | 1.5
font conga           | percussive | conga:conga:font:2 | 110 | 2 | 0 | 0
recorded four        | percussive | drums:kit:recorded:0:1:0 | 118 | 2 | 0 | 0
recorded broken      | percussive | drums:kit:recorded:1:1:1 | 92 | 2 | 0.1 | 0
recorded rock        | percussive | drums:kit:recorded:3:1:3 | 116 | 2 | 0 | 0
recorded dense       | percussive | drums:kit:recorded:5:1:1 | 160 | 2 | 0 | 1.5
recorded swung       | percussive | drums:kit:recorded:4:1:3 | 136 | 2 | 0.45 | 0
recorded hand drums  | percussive | conga:conga:recorded:1:1:2 | 104 | 2 | 0 | 0
held strings         | tonal | pad:strings:own | 84 | 2 | 0 | 0
legato cello         | tonal | melody:cello:own | 76 | 2 | 0 | 0
electric piano comp  | tonal | comp:electric-piano:own:1 | 100 | 2 | 0 | 0
organ comp           | tonal | comp:organ:own:2 | 112 | 2 | 0 | 0
plucks in sixteenths | tonal | arp16:synth-pluck:own:0 | 124 | 2 | 0 | 0
kalimba in eighths   | tonal | arp8:kalimba:own:1 | 98 | 2 | 0 | 0
strummed nylon       | tonal | strum:acoustic-guitar:own:0 | 104 | 2 | 0 | 0
walking bass         | tonal | walk:upright-bass:own | 128 | 2 | 0 | 0
bass line            | tonal | bass:electric-bass:own:1 | 102 | 2 | 0 | 0
flute tune           | tonal | melody:flute:own | 90 | 2 | 0 | 0
wide pad             | tonal | pad:synth-pad:own | 72 | 2 | 0 | 0
font strings         | tonal | pad:strings:font | 80 | 2 | 0 | 0
font electric piano  | tonal | comp:electric-piano:font:0 | 96 | 2 | 0 | 0
font piano arpeggio  | tonal | arp8:piano:font:0 | 110 | 2 | 0 | 0
font walking bass    | tonal | walk:upright-bass:font | 140 | 2 | 0 | 0
font violin          | tonal | melody:violin:font | 88 | 2 | 0 | 0
font harp            | tonal | arp16:harp:font:2 | 92 | 2 | 0 | 0
font organ           | tonal | pad:organ:font | 106 | 2 | 0 | 0
font guitar          | tonal | strum:acoustic-guitar:font:1 | 100 | 2 | 0 | 0
drums and bass       | mixed | drums:kit:own:1, bass:electric-bass:own:1:0.8 | 98 | 2 | 0.1 | 0
drums and chords     | mixed | drums:kit:own:0, comp:electric-piano:own:1:0.7 | 122 | 2 | 0 | 0
drums over a pad     | mixed | drums:kit:own:3, pad:synth-pad:own:0:0.6 | 108 | 2 | 0 | 0
full mix             | mixed | drums:kit:own:1:0.8, bass:electric-bass:own:0:0.8, comp:electric-piano:own:0:0.5, pad:strings:own:0:0.3 | 94 | 2 | 0 | 0.4
compressed full mix  | mixed | drums:kit:own:5:0.9, bass:synth-bass:own:2:0.8, comp:organ:own:1:0.5 | 170 | 2 | 0 | 1.6
congas and guitar    | mixed | conga:conga:own:1, strum:acoustic-guitar:own:0:0.7 | 106 | 2 | 0 | 0
brushes and walk     | mixed | drums:kit:own:4:0.8, walk:upright-bass:own:0:0.9 | 134 | 2 | 0.5 | 0
font drums and piano | mixed | drums:kit:font:3, comp:piano:font:0:0.7 | 114 | 2 | 0 | 0
font band            | mixed | drums:kit:font:1:0.9, bass:electric-bass:font:1:0.8, comp:electric-piano:font:2:0.6 | 92 | 2 | 0.1 | 0.3
font break and pad   | mixed | drums:kit:font:5, pad:strings:font:0:0.5 | 166 | 2 | 0 | 1.2
font swing trio      | mixed | drums:kit:font:4:0.8, walk:upright-bass:font:0:0.9, comp:piano:font:3:0.6 | 138 | 2 | 0.5 | 0
recorded and organ   | mixed | drums:kit:recorded:3:1:1, pad:organ:font:0:0.5 | 110 | 2 | 0 | 0
recorded dense band  | mixed | drums:kit:recorded:1:1:3, bass:electric-bass:font:3:0.8, comp:clavinet:own:4:0.5 | 100 | 2 | 0 | 1.3
recorded and harp    | mixed | conga:conga:recorded:0:1:2, arp8:harp:font:0:0.7 | 96 | 2 | 0 | 0
sung line, open      | voice | melody:voice:own | 84 | 2 | 0 | 0
sung line, dark      | voice | melody:voice:own:1 | 96 | 2 | 0 | 0
sung long notes      | voice | longbass:voice:own | 72 | 2 | 0 | 0
choir chords         | voice | pad:choir:own | 80 | 2 | 0 | 0
font choir           | voice | pad:choir:font | 76 | 2 | 0 | 0
font sung line       | voice | melody:voice:font | 92 | 2 | 0 | 0
`;

/** The loops of the bench; every second one of each material is kept out of tuning. */
export const loops: readonly LoopSpec[] = (() => {
  const seen = new Map<string, number>();
  return table
    .trim()
    .split('\n')
    .map((line, index) => {
      const [name, material, layers, tempo, bars, swing, drive] = line.split('|').map((cell) => cell.trim());
      const count = seen.get(material) ?? 0;
      seen.set(material, count + 1);
      const minor = index % 3 !== 1;
      return {
        name,
        material: material as Material,
        layers: layers.split(',').map((each) => layer(each.trim())),
        tempoBpm: Number(tempo),
        bars: Number(bars),
        swing: Number(swing),
        key: { tonic: (index * 5) % 12, mode: minor ? ('minor' as const) : ('major' as const) },
        scale: minor ? ('minor' as const) : ('major' as const),
        drive: Number(drive),
        tone: 0.25 + (0.5 * ((index * 7) % 10)) / 10,
        keptOut: count % 2 === 1,
      };
    });
})();
