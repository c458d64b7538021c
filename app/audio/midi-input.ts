/** A key of a connected instrument: down with its velocity, 1–127, or up with 0. */
export type OnKey = (note: number, velocity: number) => void;

const noteOff = 0x80,
  noteOn = 0x90;

/** What a message says of a key; null for everything else (MIDI 1.0: note on with velocity 0 is note off). */
export function keyOf(bytes: ArrayLike<number>): { readonly note: number; readonly velocity: number } | null {
  if (bytes.length < 3) return null;
  const kind = bytes[0] & 0xf0;
  if (kind === noteOn) return { note: bytes[1], velocity: bytes[2] };
  return kind === noteOff ? { note: bytes[1], velocity: 0 } : null;
}

/** Listens to all connected instruments, those plugged in later too. @returns how to stop; null where the browser offers none */
export async function listenToKeys(onKey: OnKey): Promise<(() => void) | null> {
  if (!('requestMIDIAccess' in navigator)) return null;
  let access: MIDIAccess;
  try {
    access = await navigator.requestMIDIAccess();
  } catch {
    return null; // not allowed: the other keyboards are still there
  }
  const hear = ({ data }: MIDIMessageEvent) => {
    const key = data && keyOf(data);
    if (key) onKey(key.note, key.velocity);
  };
  const attach = () => access.inputs.forEach((input) => (input.onmidimessage = hear));
  attach();
  access.onstatechange = attach;
  return () => {
    access.onstatechange = null;
    access.inputs.forEach((input) => (input.onmidimessage = null));
  };
}
