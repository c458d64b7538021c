import type { PackSpec } from '../catalogue';
import { shortKey, startPack, two } from './builder';

const houseKeys = [
  [96, 'F minor'],
  [124, 'D dorian'],
  [84, 'A minor'],
  [110, 'G major'],
  [118, 'C minor'],
  [100, 'E minor'],
] as const;

/** Low Lantern Basses: exact names, one lying key. */
export function lowLantern(): PackSpec {
  const pack = startPack({
    slug: 'low-lantern-under-the-pier',
    name: 'Under the Pier',
    vendor: 'Low Lantern Basses',
    licence: 'Royalty-free, cleared for broadcast',
    description: 'Fingered, upright, synth and sub bass, each line with its notes as a MIDI file beside it.',
  });
  const kinds = [
    ['Fingered', 'bass', 'electric-bass', 'Bass Fingered'],
    ['Upright', 'walk', 'upright-bass', 'Upright Bass'],
    ['Synth', 'bass', 'synth-bass', 'Synth Bass'],
    ['Sub', 'longbass', 'sub-bass', 'Sub Bass'],
  ] as const;
  houseKeys.forEach(([tempo, key], row) =>
    kinds.forEach(([folder, player, instrument, name], column) => {
      const lies = row === 2 && column === 0;
      const path = `${folder}/LLB_${name.replaceAll(' ', '')}_${two(row * 4 + column + 1)}_${tempo}bpm_${lies ? 'C#m' : shortKey(key)}`;
      const options = {
        tempo,
        key,
        progression: row,
        pattern: row + column,
        swing: player === 'walk' ? 0.2 : 0,
        tone: 0.2 + 0.12 * row,
        wet: 0.03,
        drive: column === 2 ? 0.35 : 0.15,
        mono: column === 3,
      };
      pack.loop(path, 'aiff24', player, instrument, options);
      if (column < 2) pack.loop(`MIDI/${path.split('/')[1]}`, 'midi', player, instrument, options);
    }),
  );
  pack.loop('Unsorted/bass idea 3', 'aiff16', 'bass', 'electric-bass', { tempo: 96, key: 'F minor', pattern: 5, tone: 0.8 });
  pack.loop('Unsorted/acid bass loop D#m', 'aiff16', 'bass', 'synth-bass', {
    tempo: 128,
    key: 'D# minor',
    pattern: 2,
    tone: 0.95,
    drive: 0.5,
  });
  for (const [index, note] of [28, 33, 38].entries())
    pack.sound(`Single Notes/LLB Sub Note ${two(index + 1)}`, 'aiff24', 'tones', 'sub-bass', { note, heldSeconds: 1.2, mono: true });
  pack.stray({ path: 'Licence.txt', kind: 'text', text: 'Royalty-free. Cleared for broadcast.' });
  pack.stray({ path: 'Sub/LLB_SubBass_99_120bpm_Am.aiff', kind: 'foreign' });
  return pack.finish();
}

/** Quay Street Keys: FLAC with tags, tails that make the length a lie. */
export function quayStreet(): PackSpec {
  const pack = startPack({
    slug: 'quay-street-ticket-office',
    name: 'Ticket Office Pianos',
    vendor: 'Quay Street Keys',
    licence: 'Royalty-free with credit',
    description: 'An upright from a closed ticket office, a tine piano, a reed organ. Chords, figures and their notes.',
  });
  const kinds = [
    ['Piano', 'comp', 'piano', 'Piano Chords'],
    ['Electric Piano', 'comp', 'electric-piano', 'Electric Piano'],
    ['Organ', 'comp', 'organ', 'Organ'],
    ['Clav', 'arp16', 'clavinet', 'Clav'],
  ] as const;
  houseKeys.forEach(([tempo, key], row) =>
    kinds.forEach(([folder, player, instrument, name], column) => {
      const options = {
        tempo,
        key,
        progression: row,
        pattern: row + column * 2,
        tone: 0.25 + 0.1 * row,
        wet: 0.14,
        swing: row === 0 ? 0.15 : 0,
        trouble: (row + column) % 5 === 2 ? { tailSeconds: 0.9 } : {},
      };
      const path = `${folder}/${name} ${two(row + 1)} - ${key} - ${tempo} bpm`;
      pack.loop(path, 'flac', player, instrument, options);
      if (column < 2) pack.loop(`MIDI/${name} ${two(row + 1)}`, 'midi', player, instrument, options);
    }),
  );
  pack.loop('Piano/Waiting Room (no. 12)', 'flac', 'arp8', 'piano', {
    tempo: 88,
    key: 'B minor',
    bars: 4,
    progression: 3,
    tone: 0.3,
    wet: 0.25,
  });
  pack.loop('Piano/Last Boat waltz', 'flac', 'comp', 'piano', { tempo: 105, key: 'F major', bars: 8, meter: '3/4', pattern: 3 });
  pack.loop('Full Ideas/Demo Mix Night Ferry 96', 'flac', 'mix', 'full-mix', { tempo: 96, key: 'F minor', bars: 8 });
  pack.stray({ path: 'cover.txt', kind: 'text', text: 'Recorded at Quay Street, with the windows open.' });
  return pack.finish();
}

/** Wickerwork Guitars: floats at 48 kHz, plucked strings of every kind. */
export function wickerwork(): PackSpec {
  const pack = startPack({
    slug: 'wickerwork-cane-chairs',
    name: 'Cane Chairs',
    vendor: 'Wickerwork Guitars',
    licence: 'Royalty-free, cleared for broadcast',
    description: 'Nylon and steel, picked and strummed on a veranda; a banjo, a harp, plucked strings.',
  });
  const kinds = [
    ['Nylon', 'arp8', 'acoustic-guitar', 'Nylon Guitar'],
    ['Steel Strum', 'strum', 'acoustic-guitar', 'Steel Guitar Strum'],
    ['Banjo', 'arp16', 'banjo', 'Banjo'],
    ['Harp', 'arp8', 'harp', 'Harp'],
    ['Pizzicato', 'arp8', 'pizzicato', 'Pizz'],
  ] as const;
  houseKeys.slice(0, 4).forEach(([tempo, key], row) =>
    kinds.forEach(([folder, player, instrument, name], column) =>
      pack.loop(`${folder}/WWG ${name} ${tempo} ${shortKey(key)} ${'ABCD'[row]}`, 'wav32f', player, instrument, {
        tempo,
        key,
        progression: row,
        pattern: row + column,
        tone: column === 1 ? 0.8 : 0.4,
        wet: 0.12,
        rateHz: 48000,
        bars: column === 4 ? 2 : 4,
      }),
    ),
  );
  pack.loop('Nylon/untitled nylon', 'wav32f', 'arp16', 'acoustic-guitar', {
    tempo: 72,
    key: 'D minor',
    bars: 2,
    pattern: 2,
    trouble: { leadSeconds: 0.045, tailSeconds: 0.6 },
  });
  return pack.finish();
}

/** Driftglass Textures: lossy, few tempos in the names, and the sounds that announce a section. */
export function driftglass(): PackSpec {
  const pack = startPack({
    slug: 'driftglass-tideline',
    name: 'Tideline',
    vendor: 'Driftglass Textures',
    licence: 'Non-commercial unless licensed',
    description: 'Pads, strings, bells and voices like weather, with risers and impacts in the same colours.',
  });
  houseKeys.slice(0, 5).forEach(([tempo, key], row) => {
    pack.loop(`Pads/Pad ${['Kelp', 'Foghorn', 'Glasswort', 'Marram', 'Estuary'][row]} ${shortKey(key)}`, 'ogg', 'pad', 'synth-pad', {
      tempo,
      key,
      progression: row,
      tone: 0.2 * row,
      wet: 0.3,
      trouble: row === 1 ? { tailSeconds: 1.2 } : {},
    });
    pack.loop(`Strings/Legato Strings ${key} ${tempo}`, 'ogg', 'pad', 'strings', { tempo, key, progression: row, tone: 0.4, wet: 0.25 });
    pack.loop(`Bells/Bells ${tempo} ${shortKey(key)}`, 'ogg', 'arp8', row % 2 ? 'kalimba' : 'bells', {
      tempo,
      key,
      progression: row,
      pattern: row,
      wet: 0.3,
    });
    pack.loop(`Voices/Voice Hum ${two(row + 1)} ${shortKey(key)} ${tempo}`, 'ogg', 'melody', 'voice', {
      tempo,
      key,
      progression: row,
      pattern: row,
      tone: 0.2 * row,
      wet: 0.3,
    });
  });
  for (let n = 1; n <= 4; n++) {
    pack.sound(`Transitions/Riser ${two(n)}`, 'ogg', 'riser', 'riser', { kind: 'phrase', heldSeconds: 2 + n, tone: n / 5, note: 45 + n });
    pack.sound(`Transitions/Impact ${two(n)}`, 'ogg', 'impact', 'impact', { tone: n / 5 });
    if (n < 3)
      pack.sound(`Transitions/Downlifter ${two(n)}`, 'ogg', 'downlifter', 'downlifter', {
        kind: 'phrase',
        heldSeconds: 2 + n,
        tone: n / 5,
        note: 50,
      });
  }
  pack.loop('Textures/Wind Under Door', 'ogg', 'texture', 'texture', { tempo: 60, bars: 2 });
  pack.loop('Textures/Hull Noise', 'ogg', 'texture', 'texture', { tempo: 60, bars: 2, tone: 0.1 });
  return pack.finish();
}

/** Ninepin Brass: sections and leads, stabs cut short. */
export function ninepin(): PackSpec {
  const pack = startPack({
    slug: 'ninepin-evening-watch',
    name: 'Evening Watch',
    vendor: 'Ninepin Brass',
    licence: 'Royalty-free, cleared for broadcast',
    description: 'A nine-piece section on a lock gate at dusk, with wind, mallets and leads that double it.',
  });
  houseKeys.slice(0, 4).forEach(([tempo, key], row) => {
    pack.loop(`Section/NPB Brass Stabs ${tempo} ${shortKey(key)}`, 'wav16', 'stabs', 'brass', {
      tempo,
      key,
      progression: row,
      pattern: row + 1,
      tone: 0.5,
      wet: 0.18,
    });
    pack.loop(`Lead/NPB Lead Riff ${tempo} ${shortKey(key)}`, 'wav16', 'melody', 'synth-lead', {
      tempo,
      key,
      progression: row,
      pattern: row + 2,
      tone: 0.7,
      wet: 0.15,
      drive: 0.2,
    });
    pack.loop(`Wind/NPB Flute ${tempo} ${shortKey(key)}`, 'wav16', 'melody', 'flute', {
      tempo,
      key,
      progression: row,
      pattern: row,
      wet: 0.2,
      mono: true,
    });
    pack.loop(`Mallets/NPB Marimba ${tempo} ${shortKey(key)}`, 'wav16', 'arp16', 'marimba', {
      tempo,
      key,
      progression: row,
      pattern: row + 1,
      wet: 0.15,
    });
    pack.loop(`Lead/NPB Pluck ${tempo} ${shortKey(key)}`, 'wav16', 'arp16', 'synth-pluck', {
      tempo,
      key,
      progression: row,
      pattern: row,
      tone: 0.6,
      wet: 0.15,
    });
  });
  for (const [index, note] of [53, 60, 65, 69].entries())
    pack.sound(`Single Stabs/NPB Stab ${two(index + 1)}`, 'wav16', 'tones', 'brass', { note, heldSeconds: 0.4, wet: 0.2 });
  for (const [index, note] of [72, 76, 79].entries())
    pack.sound(`Single Stabs/NPB Bell Hit ${two(index + 1)}`, 'wav16', 'tones', 'bells', { note, heldSeconds: 0.3, wet: 0.2 });
  return pack.finish();
}
