import { partVersions } from '~core/analysis/parts';
import { generatedPack, generateLoops, type GeneratedLoop } from './library-rows';

interface Writer {
  query(sql: string, bind?: unknown[]): Promise<unknown>;
}

const insertSql = `
  insert into loops (id, pack_id, set_id, media, title, file_name, vendor_path, file_sha256, file_format, sound_sha256, sound_frames, length_seconds, kind, tempo_bpm, beats, bars, meter,
    key_tonic, key_mode, pitched, instrument, family, tempo_confidence, key_confidence, kind_confidence, instrument_confidence, loudness_lufs, overview, chroma, analyser_version, search_text, added_by,
    added_at, genres, characters, detail, likeness, profile, heard_by)
  overriding system value
  select id, pack, "set", media, title, title, path, lpad(id::text, 64, '0'), 'wav', lpad(id::text, 64, '0'), 48000, length, kind, tempo, beats, bars, meter, tonic, mode, pitched, instrument, family,
    doubt, 0.95, 0.95, 0.95, loudness, decode(repeat('40', 240), 'hex'), '{}', 1, words, $2, to_timestamp(added / 1000.0), genres, characters, detail, decode(likeness, 'hex'), decode(profile, 'hex'), $3::jsonb
  from jsonb_to_recordset($1::jsonb) as r(id int, pack int, "set" int, media text, title text, path text, length float8, kind text, tempo float8, beats real, bars real, meter text, tonic int, mode text,
    pitched boolean, instrument text, family text, doubt real, loudness real, words text, added float8, genres text[], characters text[], detail jsonb, likeness text, profile text)`;

const asRow = (loop: GeneratedLoop) => ({
  id: loop.id,
  pack: loop.packNumber,
  set: loop.setNumber,
  media: loop.media,
  title: loop.title,
  path: loop.vendorPath,
  length: loop.lengthSeconds,
  kind: loop.kind,
  // One-shots and phrases have no tempo in the library.
  tempo: loop.tempoBpm,
  beats: loop.beats,
  bars: loop.bars,
  meter: loop.meter,
  tonic: loop.key?.tonic ?? null,
  mode: loop.key?.mode ?? null,
  pitched: loop.pitched,
  instrument: loop.instrument,
  family: loop.family,
  doubt: loop.tempoBpm === null && !loop.isDoubtful ? null : loop.isDoubtful ? 0.4 : 0.95,
  loudness: loop.loudnessLufs,
  words: loop.searchText,
  added: loop.addedAtMs,
  genres: loop.genres,
  characters: loop.characters,
  likeness: Buffer.from(loop.likeness).toString('hex'),
  profile: Buffer.from(loop.profile).toString('hex'),
});

/** Puts generated rows into an empty library, 2,000 a statement. @param withDetail whether each has the document of its analysis, which is most of its bytes */
export async function insertLibrary(writer: Writer, count: number, personId: number, { seed = 1, withDetail = false } = {}): Promise<void> {
  const packs = new Set<number>(),
    sets = new Map<number, number>();
  let batch: GeneratedLoop[] = [];
  const flush = async () => {
    const newPacks = [...new Set(batch.map(({ packNumber }) => packNumber))].filter((each) => !packs.has(each)),
      newSets = batch.filter(({ setNumber }) => setNumber !== null && !sets.has(setNumber));
    for (const each of newPacks) {
      const { name, vendor, licence } = generatedPack(each);
      await writer.query(
        'insert into packs (id, name, vendor, licence, description, added_by) overriding system value values ($1, $2, $3, $4, $5, $6)',
        [each, name, vendor, licence, '', personId],
      );
      packs.add(each);
    }
    for (const { setNumber, packNumber } of newSets) if (setNumber !== null) sets.set(setNumber, packNumber);
    await writer.query(
      `insert into sets (id, pack_id, stem) overriding system value select id, pack, 'set ' || id from unnest($1::int[], $2::int[]) w(id, pack) on conflict do nothing`,
      [newSets.map(({ setNumber }) => setNumber), newSets.map(({ packNumber }) => packNumber)],
    );
    await writer.query(insertSql, [
      JSON.stringify(batch.map((loop) => ({ ...asRow(loop), detail: withDetail ? loop.detail : null }))),
      personId,
      // Nothing of them is to be heard again: there are no files.
      JSON.stringify(partVersions),
    ]);
    batch = [];
  };
  for (const loop of generateLoops(count, seed)) {
    batch.push(loop);
    if (batch.length === 2000) await flush();
  }
  if (batch.length > 0) await flush();
  await writer.query(
    `select setval(pg_get_serial_sequence('loops', 'id'), $1), setval(pg_get_serial_sequence('packs', 'id'), $2), setval(pg_get_serial_sequence('sets', 'id'), $3)`,
    [count, Math.max(...packs), [...sets.keys()].reduce((most, each) => Math.max(most, each), 1)],
  );
}
