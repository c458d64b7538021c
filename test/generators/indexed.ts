import type { IndexedLoop } from '~core/search/index/indexed-loop';
import { LibraryIndex } from '~core/search/index/library-index';
import { keyCode } from '~core/theory/key';
import { generatedPack, type GeneratedLoop } from './library-rows';

/** A generated row as the index is told of it. */
export function asIndexed(loop: GeneratedLoop): IndexedLoop {
  const pack = generatedPack(loop.packNumber),
    keyText = !loop.pitched ? 'un' : loop.key ? keyCode(loop.key) : 'no';
  return {
    id: loop.id,
    packId: loop.packNumber,
    setId: loop.setNumber,
    kind: loop.kind,
    media: loop.media,
    title: loop.title,
    packName: pack.name,
    vendor: pack.vendor,
    setStem: loop.setNumber === null ? null : `set ${loop.setNumber}`,
    licence: pack.licence,
    tempoBpm: loop.tempoBpm,
    keyTonic: loop.key?.tonic ?? null,
    keyMode: loop.key?.mode ?? null,
    pitched: loop.pitched,
    instrument: loop.instrument,
    family: loop.family,
    bars: loop.bars,
    beats: loop.beats,
    meter: loop.meter,
    lengthSeconds: loop.lengthSeconds,
    loudnessLufs: loop.loudnessLufs,
    addedAtMs: loop.addedAtMs,
    addedBy: 1 + (loop.id % 3),
    isDoubtful: loop.isDoubtful,
    folder: loop.vendorPath.slice(0, loop.vendorPath.lastIndexOf('/') + 1),
    searchText: loop.searchText,
    facets: {
      kind: loop.kind,
      family: loop.family,
      instrument: loop.instrument,
      bars: loop.bars === null ? null : String(loop.bars),
      key: keyText,
      genre: loop.genres,
      character: loop.characters,
      role: null,
    },
    likeness: loop.likeness,
    profile: loop.profile,
  };
}

/** An index of these. */
export function indexOf(loops: Iterable<GeneratedLoop>): LibraryIndex {
  const index = new LibraryIndex();
  for (const loop of loops) index.put(asIndexed(loop));
  return index;
}
