import type { PackSpec } from '../catalogue';
import { startPack, two } from './builder';

/** Tin Roof Kits: drum kits in sets, mostly well named. */
export function tinRoofKits(): PackSpec {
  const pack = startPack({
    slug: 'tin-roof-kits-harbour-sessions',
    name: 'Harbour Sessions',
    vendor: 'Tin Roof Kits',
    licence: 'Royalty-free, cleared for broadcast',
    description:
      'Four nights of drums in a corrugated boathouse. Kits played by hand, swung and straight, with tops and kicks apart and the fills on their own.',
  });
  const grooves = [
    ['Lantern Walk', 96, 1, 0.18],
    ['Piston', 124, 0, 0],
    ['Slack Tide', 84, 2, 0.1],
    ['Rope Ladder', 110, 3, 0],
    ['Deckhand Shuffle', 100, 4, 0.3],
    ['Night Express', 170, 5, 0],
    ['Gangway', 118, 0, 0.06],
    ['Breakwater', 90, 1, 0.24],
  ] as const;
  for (const [name, tempo, pattern, swing] of grooves) {
    const folder = `Drum Loops/${tempo} BPM ${name}`,
      base = { tempo, pattern, swing, tone: 0.3 + pattern * 0.1, drive: 0.15 };
    pack.loop(`${folder}/TRK_${name.replaceAll(' ', '')}_${tempo}_A1`, 'wav24', 'drums', 'kit', base);
    pack.loop(`${folder}/TRK_${name.replaceAll(' ', '')}_${tempo}_A2`, 'wav24', 'drums', 'kit', { ...base, wet: 0.2, drive: 0.3 });
    pack.loop(`${folder}/TRK_${name.replaceAll(' ', '')}_${tempo}_Tops`, 'wav24', 'tops', 'tops', { ...base, bars: 2 });
    pack.loop(`${folder}/TRK_${name.replaceAll(' ', '')}_${tempo}_Kick`, 'wav24', 'kick', 'kick', { ...base, bars: 2, mono: true });
    pack.loop(`${folder}/TRK_${name.replaceAll(' ', '')}_${tempo}_Fill`, 'wav24', 'drums', 'kit', {
      ...base,
      bars: 1,
      pattern: pattern + 10,
    });
  }
  // Names that say nothing, or the wrong thing.
  pack.loop('Drum Loops/Unsorted/DrumLoop 07', 'wav16', 'drums', 'kit', { tempo: 105, pattern: 1, swing: 0.12 });
  pack.loop('Drum Loops/Unsorted/DrumLoop 08', 'wav16', 'drums', 'kit', { tempo: 128, pattern: 0, trouble: { leadSeconds: 0.06 } });
  pack.loop('Drum Loops/Unsorted/Beat 125 bpm', 'wav16', 'drums', 'kit', { tempo: 124.6, pattern: 0 });
  pack.loop('Drum Loops/Unsorted/Waltz Kit 140', 'wav16', 'drums', 'kit', { tempo: 140, meter: '3/4', bars: 8 });
  // Played without a click: its time goes out and comes back.
  pack.loop('Drum Loops/By Hand/TRK_LowWater_102_NoClick', 'wav24', 'drums', 'kit', { tempo: 102, pattern: 3, wanderMs: 24, tone: 0.4 });
  const hits = [
    ['Kick Deep', 36, 'kick', 0.1],
    ['Kick Tight', 36, 'kick', 0.9],
    ['Snare Wood', 38, 'snare', 0.2],
    ['Snare Crack', 40, 'snare', 0.9],
    ['Rim', 37, 'snare', 0.5],
    ['Clap Wide', 39, 'clap', 0.5],
    ['Hat Closed', 42, 'hats', 0.5],
    ['Hat Open', 46, 'hats', 0.5],
    ['Tom Low', 41, 'toms', 0.5],
    ['Tom High', 50, 'toms', 0.5],
    ['Crash Old', 49, 'hats', 0.4],
  ] as const;
  hits.forEach(([name, note, instrument, tone], index) =>
    pack.sound(`One Shots/TRK Hit ${two(index + 1)} ${name}`, 'wav24', 'single', instrument, { note, tone, mono: index % 2 === 0 }),
  );
  pack.duplicate('Drum Loops/Unsorted/Copy of Lantern Walk.wav', 'Drum Loops/96 BPM Lantern Walk/TRK_LanternWalk_96_A1.wav');
  pack.stray({
    path: 'Licence.txt',
    kind: 'text',
    text: 'Royalty-free for all uses, broadcast included. Do not resell the loops by themselves.',
  });
  pack.stray({ path: '__MACOSX/Drum Loops/._TRK_Piston_124_A1.wav', kind: 'junk' });
  pack.stray({ path: 'Drum Loops/Unsorted/DrumLoop 09.wav', kind: 'truncated' });
  pack.stray({ path: 'Drum Loops/Unsorted/DrumLoop 10.wav', kind: 'zero' });
  return pack.finish();
}

/** Copperkettle Percussion: a vendor that halves every tempo in its names. */
export function copperkettle(): PackSpec {
  const pack = startPack({
    slug: 'copperkettle-galley',
    name: 'Galley Percussion',
    vendor: 'Copperkettle Percussion',
    licence: 'Royalty-free with credit',
    description: 'Shakers, hand drums and kitchen tables, recorded close. Made for layering over a kit.',
  });
  const rows = [
    ['Shaker', 'shaker', 'shaker', 3],
    ['Tambourine', 'tambourine', 'tambourine', 2],
    ['Conga', 'conga', 'conga', 3],
    ['Woodblock', 'woodblock', 'woodblock', 2],
    ['Bell', 'bell', 'woodblock', 2],
    ['Kitchen Table Perc', 'table', 'percussion', 1],
  ] as const;
  for (const tempo of [96, 124, 110])
    for (const [name, player, instrument, patterns] of rows) {
      for (let pattern = 0; pattern < Math.min(patterns, 2); pattern++)
        pack.loop(`${name}/${name} ${tempo === 124 ? 62 : tempo} ${String.fromCharCode(65 + pattern)}`, 'wav16', player, instrument, {
          tempo,
          bars: pattern === 0 ? 2 : 4,
          pattern,
          swing: tempo === 96 ? 0.16 : 0.04,
          tone: pattern * 0.5 + 0.2,
          mono: player === 'shaker',
          wet: 0.08,
          drive: 0.05,
        });
    }
  pack.loop('Shaker/Shaker quiet take', 'wav16', 'shaker', 'shaker', { tempo: 118, bars: 2, pattern: 1, trouble: { peakDbfs: -31 } });
  pack.loop('Conga/Conga slow 72', 'wav16', 'conga', 'conga', {
    tempo: 72,
    bars: 2,
    pattern: 2,
    swing: 0.2,
    trouble: { tailSeconds: 0.7 },
  });
  [
    ['Conga Open', 64, 'conga'],
    ['Conga Slap', 62, 'conga'],
    ['Wood High', 75, 'woodblock'],
    ['Kettle Bell', 56, 'woodblock'],
    ['Shake Once', 70, 'shaker'],
    ['Jingle', 54, 'tambourine'],
  ].forEach(([name, note, instrument]) =>
    pack.sound(`Hits/${name}`, 'wav16', 'single', instrument as string, { note: note as number, mono: true }),
  );
  pack.stray({ path: 'Read me.txt', kind: 'text', text: 'Tempos are counted in half notes.' });
  pack.stray({ path: 'Tambourine/Thumbs.db', kind: 'junk' });
  return pack.finish();
}
