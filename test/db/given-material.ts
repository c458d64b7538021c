import { writeSmf } from '~core/formats/smf/write';
import { beats, importAll, wav, type Library } from './services';

/** A pack of two loops at 120: hits, and four notes from D up, one a beat, written in D minor. @returns their numbers */
export async function givenMaterial(library: Library): Promise<{ readonly drums: number; readonly notes: number }> {
  const midi = writeSmf({
      notes: [0, 1, 2, 3].map((startBeat) => ({ startBeat, lengthBeats: 0.5, pitch: 50 + startBeat, velocity: 90, channel: 0 })),
      lengthBeats: 4,
      tempoBpm: 120,
      meter: '4/4',
    }),
    { lines } = await importAll(library, 'Given material', [
      ['Drums 120 bpm.wav', wav(beats(120, 8))],
      ['Bass 120 bpm Dm.mid', Buffer.from(midi)],
    ]),
    loopAt = (path: string) => lines.find((line) => line.path === path)?.loopId as number;
  return { drums: loopAt('Drums 120 bpm.wav'), notes: loopAt('Bass 120 bpm Dm.mid') };
}
