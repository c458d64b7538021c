const sounds = new Map<string, Uint8Array>();
/** What was made last is heard, and what was made before it may sound on until its line, or be on the shortlist. */
const mostBytes = 64 * 2 ** 20;

/** Lets the engine hear a sound that lies on no server, under a name that no hash has. The oldest are forgotten, the newest never. */
export function keepOwnSound(name: string, wav: Uint8Array): void {
  sounds.set(name, wav);
  let bytes = [...sounds.values()].reduce((sum, sound) => sum + sound.length, 0);
  for (const [oldest, sound] of sounds) {
    if (bytes <= mostBytes || oldest === name) return;
    sounds.delete(oldest);
    bytes -= sound.length;
  }
}

/** The bytes of a sound of the page's own; undefined for all others. */
export const ownSound = (name: string): Uint8Array | undefined => sounds.get(name);
