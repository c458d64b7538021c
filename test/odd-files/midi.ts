import { big, letters, u16, u32, type OddFile } from './odd-file';

/* Standard MIDI Files: MIDI Association RP-001; weaknesses by the Common Weakness Enumeration. */
const be16 = (value: number): number[] => big(u16(value)),
  be32 = (value: number): number[] => big(u32(value)),
  track = (events: readonly number[], said = events.length): number[] => [...letters('MTrk'), ...be32(said), ...events],
  file = (tracks: readonly number[], { format = 0, count = 1, division = 96, head = 6, more = [] as number[] } = {}): Uint8Array =>
    Uint8Array.from([...letters('MThd'), ...be32(head), ...be16(format), ...be16(count), ...be16(division), ...more, ...tracks]);
const end = [0, 0xff, 0x2f, 0];
let pitches = 30;
/** Four quarters on a pitch that no other file of the table has. */
function four(status = 0x90): number[] {
  const pitch = pitches++;
  return Array.from({ length: 4 }, () => [0, status, pitch, 90, 0x60, status, pitch, 0]).flat();
}
const meta = (type: number, body: readonly number[], said = body.length): number[] => [0, 0xff, type, said, ...body];

const takes = (name: string, why: string, bytes: Uint8Array): OddFile => ({ path: `notes ${name}.mid`, why, bytes, state: 'done' }),
  refuses = (name: string, why: string, says: RegExp, bytes: Uint8Array): OddFile => ({
    path: `notes ${name}.mid`,
    why,
    bytes,
    state: 'failed',
    says,
  });

export const midiFiles: readonly OddFile[] = [
  takes('plain', 'format 0', file(track([...four(), ...end]))),
  takes(
    'format 1',
    'two tracks at once',
    file([...track([...meta(0x51, [7, 161, 32]), ...end]), ...track([...four(), ...end])], { format: 1, count: 2 }),
  ),
  takes(
    'longer head',
    'a head of more than six bytes is passed over (RP-001)',
    file(track([...four(), ...end]), { head: 10, more: [1, 2, 3, 4] }),
  ),
  takes(
    'foreign chunk',
    'chunks of unknown kinds are passed over (RP-001)',
    file([...letters('XFIH'), ...be32(3), 1, 2, 3, ...track([...four(), ...end])]),
  ),
  takes('count lies', 'one track where five are promised (CWE-130)', file(track([...four(), ...end]), { format: 1, count: 5 })),
  takes('no end', 'no end of track', file(track(four()))),
  takes(
    'running status',
    'a status byte holds until the next',
    file(track([0, 0x90, 29, 90, 0x60, 29, 0, 0, 28, 90, 0x60, 28, 0, ...end])),
  ),
  takes('note held on', 'a note that nobody ends', file(track([0, 0x90, 27, 90, ...meta(0x06, letters('A')), 0x60, 0xff, 0x2f, 0]))),
  takes('end of nothing', 'an end without its note', file(track([0, 0x80, 1, 0, ...four(), ...end]))),
  takes('velocity zero', 'a note on of velocity 0 is a note off', file(track([0, 0x90, 26, 80, 0x60, 0x90, 26, 0, ...end]))),
  takes(
    'note of no length',
    'it begins and ends at once',
    file(track([0, 0x90, 25, 80, 0, 0x80, 25, 0, 0x60, 0x90, 24, 80, 0x60, 0x80, 24, 0, ...end])),
  ),
  takes(
    'tempo zero',
    'no microseconds a quarter: a division by nothing (CWE-369)',
    file(track([...meta(0x51, [0, 0, 0]), ...four(), ...end])),
  ),
  takes('tempo one', 'sixty million quarters a minute (CWE-1284)', file(track([...meta(0x51, [0, 0, 1]), ...four(), ...end]))),
  takes('tempo of two bytes', 'a tempo cut short (CWE-130)', file(track([...meta(0x51, [7, 161]), ...four(), ...end]))),
  takes('meter of 2 to the 255', 'a meter over 2²⁵⁵ (CWE-1284)', file(track([...meta(0x58, [4, 255, 24, 8]), ...four(), ...end]))),
  takes('meter of none', 'no beats to the bar (CWE-369)', file(track([...meta(0x58, [0, 2, 24, 8]), ...four(), ...end]))),
  takes('key of 50 flats', 'a key signature of −50 (CWE-1284)', file(track([...meta(0x59, [206, 0]), ...four(), ...end]))),
  takes('system exclusive', 'bytes of one maker are passed over', file(track([0, 0xf0, 4, 0x7e, 1, 9, 0xf7, ...four(), ...end]))),
  takes(
    'track name markup',
    'a name that would be markup (CWE-79)',
    file(track([...meta(0x03, letters('<b>bold</b>')), ...four(), ...end])),
  ),
  takes(
    'name of no letters',
    'a name of bytes that are no UTF-8 (CWE-176)',
    file(track([...meta(0x03, [0xff, 0xfe, 0xc3]), ...four(), ...end])),
  ),
  takes(
    'all channels',
    'notes on sixteen channels',
    file(track([...Array.from({ length: 16 }, (_, k) => [0, 0x90 + k, 60 + k, 80, 0x18, 0x80 + k, 60 + k, 0]).flat(), ...end])),
  ),
  takes('percussion', 'channel ten is percussion (General MIDI)', file(track([...four(0x99), ...end]))),
  takes('bytes behind', 'what lies behind the last track is no chunk', file([...track([...four(), ...end]), 1, 2, 3])),
  takes(
    'events behind the end',
    'what follows the end of track is not played',
    file(track([...four(), ...end, 0, 0x90, 99, 90, 0x60, 0x80, 99, 0])),
  ),
  refuses('head only', 'no track', /holds no notes/, file([])),
  refuses('head cut', 'a head of ten bytes (CWE-125)', /contents are something else|not a MIDI file/, file([]).slice(0, 10)),
  refuses('track cut', 'a track that ends in its middle (CWE-130)', /cut off/, file(track([...four(), ...end])).slice(0, 30)),
  refuses('track promises', 'a track of 4 GB (CWE-130)', /cut off/, file(track(four(), 0xfffffff0))),
  refuses('no notes', 'a tempo and nothing else', /holds no notes/, file(track([...meta(0x51, [7, 161, 32]), ...end]))),
  refuses('format 2', 'patterns that belong to no time', /format 2/, file(track([...four(), ...end]), { format: 2 })),
  refuses('film time', '25 frames a second', /film time/, file(track([...four(), ...end]), { division: 0xe728 })),
  refuses('no division', 'no ticks to the beat (CWE-369)', /film time|in beats/, file(track([...four(), ...end]), { division: 0 })),
  refuses(
    'data where an event should be',
    'data before any status (RP-001)',
    /data where an event/,
    file(track([0, 0x40, 0x40, 0, ...end])),
  ),
  refuses(
    'too long',
    'a rest of a hundred and fifty thousand beats (CWE-400)',
    /lasts \d+ beats/,
    file(track([0, 0x90, 60, 90, 0xff, 0xff, 0xff, 0x7f, 0x80, 60, 0, ...end], undefined), { division: 1 }),
  ),
  refuses(
    'too many',
    'more notes than any loop (CWE-400)',
    /more than 100,000 notes/,
    file(track([0, 0x90, 60, 90, ...Array.from({ length: 100_001 }, () => [0, 60, 90]).flat(), ...end])),
  ),
];
