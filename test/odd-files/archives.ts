import { crc32, deflateRawSync } from 'node:zlib';
import { writeWav } from '../../core/formats/wav/write';
import { letters, u16, u32, type OddArchive } from './odd-file';

/* ZIP: PKWARE APPNOTE 6.3; weaknesses by the Common Weakness Enumeration. */
interface Entry {
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly packs?: boolean;
  /** Bits of the entry's general purpose flag; bit 11: names are UTF-8. */
  readonly flags?: number;
  readonly method?: number;
  readonly sum?: number;
  /** What the entry says of its own length. */
  readonly saidBytes?: number;
  /** The upper half: a Unix mode. */
  readonly attributes?: number;
}
function zip(entries: readonly Entry[], { comment = '', count = entries.length } = {}): Uint8Array {
  const bodies: number[] = [],
    central: number[] = [];
  for (const { name, bytes, packs = false, flags = 0x800, sum, saidBytes, attributes = 0, ...entry } of entries) {
    const written = new TextEncoder().encode(name),
      plain = packs ? deflateRawSync(bytes) : bytes,
      // A password's head stands before what is encrypted (6.1.3).
      body = flags & 1 ? Uint8Array.from([...new Array<number>(12).fill(9), ...plain]) : plain,
      head = [
        ...u16(20),
        ...u16(flags),
        ...u16(entry.method ?? (packs ? 8 : 0)),
        ...u32(0),
        ...u32(sum ?? crc32(bytes)),
        ...u32(body.length),
        ...u32(saidBytes ?? bytes.length),
        ...u16(written.length),
        ...u16(0),
      ],
      at = bodies.length;
    bodies.push(...letters('PK\x03\x04'), ...head, ...written);
    for (const byte of body) bodies.push(byte);
    central.push(
      ...letters('PK\x01\x02'),
      ...u16(0x031e),
      ...head,
      ...u16(0),
      ...u16(0),
      ...u16(0),
      ...u32(attributes),
      ...u32(at),
      ...written,
    );
  }
  return Uint8Array.from([
    ...bodies,
    ...central,
    ...letters('PK\x05\x06'),
    ...u32(0),
    ...u16(count),
    ...u16(count),
    ...u32(central.length),
    ...u32(bodies.length),
    ...u16(comment.length),
    ...letters(comment),
  ]);
}

let turns = 0;
/** A tenth of a second that no other file of the tables has. */
const sound = (): Uint8Array => {
  const hz = 3007 + 11 * turns++;
  return writeWav(
    { sampleRateHz: 22050, channels: [Float32Array.from({ length: 2205 }, (_, i) => 0.3 * Math.sin((2 * Math.PI * hz * i) / 22050))] },
    'int16',
  );
};
const one = (path: string, why: string, entry: Partial<Entry>, rows: OddArchive['rows']): OddArchive => ({
  path,
  why,
  bytes: zip([{ name: `${path} inside.wav`, bytes: sound(), ...entry }]),
  rows: [{ path: new RegExp(`^${path}$`), state: 'done' }, ...rows],
});
const whole = (path: string, why: string, bytes: Uint8Array, says: RegExp): OddArchive => ({
  path,
  why,
  bytes,
  rows: [{ path: new RegExp(`^${path}$`), state: 'failed', says }],
});

export const archives: readonly OddArchive[] = [
  one('stored.zip', 'an entry that is not packed (4.4.5)', {}, [{ path: /stored\.zip inside/, state: 'done' }]),
  one('packed.zip', 'deflated (4.4.5)', { packs: true }, [{ path: /packed\.zip inside/, state: 'done' }]),
  one('climbs.zip', 'a path that climbs out (CWE-22)', { name: '../../climbed.wav' }, [
    { path: /climbed/, state: 'failed', says: /leads out of the archive/ },
  ]),
  one('climbs back.zip', 'a path that climbs out by backslashes (CWE-22)', { name: '..\\..\\backed.wav' }, [
    { path: /backed/, state: 'failed', says: /leads out of the archive/ },
  ]),
  one('absolute.zip', 'a path from the root: taken below the pack (CWE-36)', { name: '/etc/rooted.wav' }, [
    { path: /(^|\/)etc\/rooted\.wav$/, state: 'done' },
  ]),
  one('drive.zip', 'a path with a drive: taken below the pack (CWE-39)', { name: 'C:\\Loops\\driven.wav' }, [
    { path: /(^|\/)Loops\/driven\.wav$/, state: 'done' },
  ]),
  one('nul name.zip', 'a zero in a name (CWE-626)', { name: 'nulled.wav\0.exe.wav' }, [
    { path: /(^|\/)nulled\.wav\.exe\.wav$/, state: 'done' },
  ]),
  one('sum wrong.zip', 'a checksum of something else (4.4.7)', { sum: 1 }, [
    { path: /sum wrong\.zip inside/, state: 'failed', says: /checksum/ },
  ]),
  one('encrypted.zip', 'an entry with a password (4.4.4, bit 0)', { flags: 0x801 }, [
    { path: /encrypted\.zip inside/, state: 'failed', says: /encrypted/ },
  ]),
  one('method 99.zip', 'a packing that nobody knows (4.4.5)', { method: 99 }, [
    { path: /method 99\.zip inside/, state: 'failed', says: /damaged inside the archive/ },
  ]),
  one(
    'link.zip',
    'a link to a file of the machine: what it holds is a text, no sound (CWE-59)',
    { name: 'linked.wav', bytes: new TextEncoder().encode('/etc/passwd'), attributes: 0o120777 * 65536 },
    [{ path: /linked/, state: 'failed', says: /something else/ }],
  ),
  one('mac leftovers.zip', 'what an operating system leaves', { name: '__MACOSX/._loop.wav' }, [
    { path: /__MACOSX/, state: 'left-aside', says: /operating system/ },
  ]),
  one('readme.zip', 'a text stays with the pack', { name: 'odd readme.txt', bytes: new TextEncoder().encode('Recorded at the quay.') }, [
    { path: /odd readme/, state: 'kept' },
  ]),
  one('session file.zip', 'a file of another kind', { name: 'session.xyz' }, [
    { path: /session\.xyz/, state: 'left-aside', says: /not a sound/ },
  ]),
  one('empty entry.zip', 'a sound of no bytes', { name: 'nothing.wav', bytes: new Uint8Array(0) }, [
    { path: /nothing\.wav/, state: 'failed', says: /empty/ },
  ]),
  whole(
    'bomb.zip',
    'sixteen megabytes of zeros out of sixteen thousand bytes (CWE-409)',
    zip([{ name: 'bomb.wav', bytes: new Uint8Array(16 * 2 ** 20), packs: true }]),
    /grow to 16 MB/,
  ),
  whole('no bytes.zip', 'no byte', new Uint8Array(0), /./),
  whole('no zip.zip', 'a text', new TextEncoder().encode('This was to be an archive.'), /./),
  whole('cut.zip', 'an archive without its directory (CWE-130)', zip([{ name: 'gone.wav', bytes: sound() }]).slice(0, 900), /./),
  {
    path: 'comment.zip',
    why: 'a comment behind the directory (4.3.16)',
    bytes: zip([{ name: 'commented.wav', bytes: sound() }], { comment: 'recorded at night' }),
    rows: [{ path: /commented/, state: 'done' }],
  },
  {
    path: 'none inside.zip',
    why: 'an archive of nothing (4.2.1)',
    bytes: zip([]),
    rows: [{ path: /^none inside\.zip$/, state: 'done', says: /0 files/ }],
  },
  {
    path: 'twice.zip',
    why: 'two entries of one name: both come in (CWE-694)',
    bytes: zip([
      { name: 'twice.wav', bytes: sound() },
      { name: 'twice.wav', bytes: sound() },
    ]),
    rows: [
      { path: /(^|\/)twice\.wav$/, state: 'done' },
      { path: /(^|\/)twice.+\.wav$/, state: 'done' },
    ],
  },
  {
    path: 'folder.zip',
    why: 'a folder is no file',
    bytes: zip([
      { name: 'Drums/', bytes: new Uint8Array(0) },
      { name: 'Drums/in folder.wav', bytes: sound() },
    ]),
    rows: [{ path: /(^|\/)Drums\/in folder\.wav$/, state: 'done' }],
  },
];
