const sounds = new Map<string, Uint8Array>();
/** What was made last is heard, and what was made before it may sound on until its line. */
const mostKept = 4;

/** Lets the engine hear a sound that lies on no server, under a name that no hash has. */
export function keepOwnSound(name: string, wav: Uint8Array): void {
  sounds.set(name, wav);
  if (sounds.size > mostKept) sounds.delete(sounds.keys().next().value as string);
}

/** The bytes of a sound of the page's own; undefined for all others. */
export const ownSound = (name: string): Uint8Array | undefined => sounds.get(name);
