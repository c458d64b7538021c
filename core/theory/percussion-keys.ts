/** Names of percussion keys (General MIDI 1, MIDI Association RP-003), from key 35 on. */
const names =
  'Acoustic bass drum|Bass drum|Side stick|Acoustic snare|Hand clap|Electric snare|Low floor tom|Closed hi-hat|High floor tom|Pedal hi-hat|Low tom|Open hi-hat|Low-mid tom|Hi-mid tom|Crash cymbal|High tom|Ride cymbal|Chinese cymbal|Ride bell|Tambourine|Splash cymbal|Cowbell|Crash cymbal 2|Vibraslap|Ride cymbal 2|Hi bongo|Low bongo|Mute hi conga|Open hi conga|Low conga|High timbale|Low timbale|High agogo|Low agogo|Cabasa|Maracas|Short whistle|Long whistle|Short guiro|Long guiro|Claves|Hi wood block|Low wood block|Mute cuica|Open cuica|Mute triangle|Open triangle'.split(
    '|',
  );

export const lowestPercussionKey = 35,
  highestPercussionKey = lowestPercussionKey + names.length - 1;

/** What a percussion key is called; its number where General MIDI has none. @example percussionName(38) // => 'Acoustic snare' */
export const percussionName = (key: number): string => names[key - lowestPercussionKey] ?? `Key ${key}`;
