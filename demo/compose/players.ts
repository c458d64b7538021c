import type { Note } from '../../core/formats/smf/parse';
import { drumPatterns, waltz } from './drum-patterns';
import { chordAt, scaleSteps, voiceChord, type ChordSpan, type Scale } from './harmony';
import { playLines, withFill, type Line } from './groove';

/** What every player is given. Beats are quarter notes. */
export interface Part {
  readonly chords: readonly ChordSpan[];
  readonly tonic: number;
  readonly scale: Scale;
  readonly bars: number;
  readonly barBeats: number;
  readonly swing: number;
  readonly random: () => number;
  /** Which of the player's patterns. */
  readonly pattern: number;
}

/** A drum kit. `pattern` ≥ 10 adds a fill at the end. */
export function playDrums(part: Part): Note[] {
  const lines = part.barBeats === 3 ? waltz : drumPatterns[(part.pattern % 10) % drumPatterns.length][1];
  const notes = playLines(lines, { ...part, stepsPerBeat: 4, channel: 9, looseBeats: 0.012 });
  return part.pattern >= 10 ? withFill(notes, part.bars * part.barBeats, [38, 48, 45, 41], part.random) : notes;
}

/** The same groove without kick and snare, or kick alone. */
export const playTops = (part: Part): Note[] => playDrums(part).filter((note) => note.pitch > 40 || note.pitch === 37);
export const playKick = (part: Part): Note[] => playDrums(part).filter((note) => note.pitch === 36);

const percussionPatterns: Readonly<Record<string, readonly (readonly Line[])[]>> = {
  shaker: [
    [{ pitch: 70, steps: 'X.oxX.oxX.oxX.ox' }],
    [{ pitch: 70, steps: 'XgogXgogXgogXgoo' }],
    [{ pitch: 82, steps: 'o.X.o.X.o.X.oxX.' }],
  ],
  tambourine: [[{ pitch: 54, steps: '....X..g....X...' }], [{ pitch: 54, steps: 'o.g.X.g.o.g.X.gg' }]],
  conga: [
    [
      { pitch: 64, steps: 'x......ox......o' },
      { pitch: 63, steps: '..o.X.o...ooX.o.' },
      { pitch: 62, steps: '.g.g..g..g....g.' },
    ],
    [
      { pitch: 64, steps: 'o..x..o...x.oo..' },
      { pitch: 60, steps: '..X..o.X..o...Xo' },
    ],
    [
      { pitch: 61, steps: 'x..x..x...x.x...' },
      { pitch: 60, steps: '.oo.oo.ooo.o.ooo' },
    ],
  ],
  woodblock: [
    [{ pitch: 75, steps: 'X..X..X...X.X...' }],
    [
      { pitch: 76, steps: 'x..o..x.x..o..x.' },
      { pitch: 77, steps: '..o..o....o..o..' },
    ],
  ],
  bell: [
    [{ pitch: 56, steps: 'X.x.x.xxX.x.x.x.' }],
    [
      { pitch: 67, steps: 'x..x.x..x..x.x.x' },
      { pitch: 68, steps: '..o...o...o...o.' },
    ],
  ],
  table: [
    [
      { pitch: 70, steps: 'o.xgo.xgo.xgo.xx' },
      { pitch: 64, steps: 'X.....o.x.....oo' },
      { pitch: 75, steps: '..x..x....x.x...' },
    ],
  ],
};

export const playPercussion =
  (kind: keyof typeof percussionPatterns) =>
  (part: Part): Note[] => {
    const list = percussionPatterns[kind];
    return playLines(list[part.pattern % list.length], { ...part, stepsPerBeat: 4, channel: 9, looseBeats: 0.014 });
  };

const bassRhythms = [
  'X.....x.x...x...',
  'X..x..x.....x.x.',
  'X.x.x.x.x.x.x.x.',
  '..X...X...X...X.',
  'X.......x.....x.',
  'X..xX..x.xX..x.o',
];

/** Root, fifth, octave and an approach into the next chord. `walk` gives quarter notes through the scale. */
export const playBass =
  (style: 'line' | 'walk' | 'long') =>
  (part: Part): Note[] => {
    const total = part.bars * part.barBeats,
      low = 28 + ((part.tonic + 8) % 12);
    const near = (pitch: number) => {
      let note = pitch % 12;
      while (note < low - 4) note += 12;
      return note;
    };
    if (style === 'long')
      return part.chords.map((chord) => ({
        startBeat: chord.startBeat,
        lengthBeats: chord.lengthBeats * 0.94,
        pitch: near(chord.root),
        velocity: 96,
        channel: 0,
      }));
    if (style === 'walk')
      return Array.from({ length: total }, (_, beat) => {
        const chord = chordAt(part.chords, beat),
          next = chordAt(part.chords, (beat + 1) % total),
          within = beat - chord.startBeat;
        const pitch =
          within === 0
            ? near(chord.root)
            : next !== chord || beat === total - 1
              ? near(next.root) + (part.random() < 0.5 ? -1 : 1)
              : near(chord.root + chord.intervals[1 + (within % 2)]);
        return {
          startBeat: beat + (beat === 0 ? 0 : (part.random() - 0.5) * 0.02),
          lengthBeats: 0.86,
          pitch,
          velocity: 84 + (within === 0 ? 16 : 0) + Math.round(part.random() * 8),
          channel: 0,
        };
      });
    const rhythm = bassRhythms[part.pattern % bassRhythms.length];
    const steps = playLines([{ pitch: 0, steps: rhythm }], { ...part, stepsPerBeat: 4, channel: 0, looseBeats: 0.008 });
    return steps.map((note, index) => {
      const chord = chordAt(part.chords, note.startBeat + 0.05),
        following = steps[index + 1]?.startBeat ?? total;
      const onChord = Math.abs(note.startBeat - chord.startBeat) < 0.1,
        roll = part.random();
      const choice = onChord ? 0 : roll < 0.5 ? 0 : roll < 0.75 ? 7 : roll < 0.9 ? 12 : chord.intervals[1];
      return {
        ...note,
        pitch: near(chord.root) + choice,
        lengthBeats: Math.max(0.15, Math.min(1.5, (following - note.startBeat) * (0.6 + 0.35 * part.random()))),
      };
    });
  };

const compRhythms = [
  'X.......x.......',
  'X..x..x...x.x...',
  'X.....x...x.....',
  'X...............',
  '..x...x...x...x.',
  'X..x....X..x..o.',
];

/** Voiced chords in a rhythm; the bass note of keyboards added below. `length` of each as a share of the gap. */
export const playChords =
  (options: { centre: number; hold: number; strumBeats?: number; withRoot?: boolean }) =>
  (part: Part): Note[] => {
    const total = part.bars * part.barBeats,
      notes: Note[] = [];
    const steps = playLines([{ pitch: 0, steps: compRhythms[part.pattern % compRhythms.length] }], {
      ...part,
      stepsPerBeat: 4,
      channel: 0,
      looseBeats: 0.006,
    });
    let voicing: number[] | null = null,
      last: ChordSpan | null = null;
    steps.forEach((step, index) => {
      const chord = chordAt(part.chords, step.startBeat + 0.3);
      if (chord !== last) voicing = voiceChord(chord, options.centre, voicing);
      const gap = (steps[index + 1]?.startBeat ?? total) - step.startBeat;
      (voicing ?? []).forEach((pitch, k) =>
        notes.push({
          startBeat: step.startBeat + (options.strumBeats ?? 0.004) * k,
          lengthBeats: Math.max(0.12, gap * options.hold),
          pitch,
          velocity: Math.max(20, step.velocity - 8 - Math.round(part.random() * 10)),
          channel: 0,
        }),
      );
      if (options.withRoot && chord !== last)
        notes.push({
          startBeat: step.startBeat,
          lengthBeats: Math.min(chord.lengthBeats, total - step.startBeat) * 0.9,
          pitch: 36 + chord.root,
          velocity: 84,
          channel: 0,
        });
      last = chord;
    });
    return notes;
  };

/** Chords held for their whole length. */
export const playPad =
  (centre: number) =>
  (part: Part): Note[] => {
    let voicing: number[] | null = null;
    return part.chords.flatMap((chord) => {
      voicing = voiceChord(chord, centre, voicing);
      return voicing.map((pitch) => ({
        startBeat: chord.startBeat,
        lengthBeats: chord.lengthBeats * 0.98,
        pitch,
        velocity: 78 + Math.round(part.random() * 10),
        channel: 0,
      }));
    });
  };

const arpOrders = [
  [0, 1, 2, 1],
  [0, 2, 1, 3],
  [0, 1, 2, 3, 2, 1],
  [3, 2, 1, 0],
];

/** Chord notes one after the other, in eighths or sixteenths. */
export const playArp =
  (centre: number, stepsPerBeat: 2 | 4) =>
  (part: Part): Note[] => {
    const order = arpOrders[part.pattern % arpOrders.length],
      total = part.bars * part.barBeats * stepsPerBeat;
    let voicing: number[] | null = null,
      last: ChordSpan | null = null;
    return Array.from({ length: total }, (_, step) => {
      const beat = step / stepsPerBeat,
        chord = chordAt(part.chords, beat);
      if (chord !== last) {
        voicing = voiceChord(chord, centre, voicing);
        last = chord;
      }
      const tones = [...(voicing ?? []), (voicing ?? [60])[0] + 12],
        pitch = tones[order[step % order.length] % tones.length];
      return {
        startBeat: beat + (stepsPerBeat === 4 && step % 2 ? part.swing / 4 : 0),
        lengthBeats: 0.9 / stepsPerBeat,
        pitch,
        velocity: step % stepsPerBeat === 0 ? 100 : 72 + Math.round(part.random() * 14),
        channel: 0,
      };
    });
  };

const melodyRhythms = [
  [1, 0.5, 0.5, 1, 1],
  [1.5, 0.5, 1, 1],
  [0.5, 0.5, 1, 0.5, 0.5, 1],
  [2, 1, 1],
  [0.75, 0.75, 0.5, 1, 1],
];

/** A melody that walks the scale and rests on chord notes; the second half answers the first. */
export const playMelody =
  (centre: number) =>
  (part: Part): Note[] => {
    const steps = scaleSteps[part.scale],
      total = part.bars * part.barBeats,
      notes: Note[] = [];
    const toPitch = (degree: number) =>
      part.tonic + 12 * (Math.floor((centre - part.tonic) / 12) + Math.floor(degree / 7)) + steps[((degree % 7) + 7) % 7];
    let degree = 0;
    for (let bar = 0; bar < part.bars; bar++) {
      const rhythm = melodyRhythms[(part.pattern + (bar % 2)) % melodyRhythms.length];
      let beat = bar * part.barBeats;
      for (const length of rhythm) {
        if (beat >= Math.min(total, (bar + 1) * part.barBeats) - 0.01) break;
        const chord = chordAt(part.chords, beat);
        degree = Math.max(-4, Math.min(8, degree + Math.round((part.random() - 0.5) * 4)));
        if (beat % 2 === 0)
          for (
            let tries = 0;
            tries < 7 && !chord.intervals.some((interval) => (chord.root + interval) % 12 === toPitch(degree) % 12);
            tries++
          )
            degree += degree > 4 ? -1 : 1;
        if (part.random() > 0.12 || beat === 0)
          notes.push({
            startBeat: beat,
            lengthBeats: Math.min(length, total - beat) * 0.9,
            pitch: toPitch(degree),
            velocity: 84 + Math.round(part.random() * 22),
            channel: 0,
          });
        beat += length;
      }
    }
    return notes;
  };

/** Short accents of a section, with a fall-off of velocity. */
export const playStabs = (centre: number) => playChords({ centre, hold: 0.35 });
