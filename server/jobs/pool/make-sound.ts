import { parseSmf } from '~core/formats/smf/parse';
import { parseWav } from '~core/formats/wav/parse';
import { writeWav } from '~core/formats/wav/write';
import { notesOfPart, writePartNotes } from '~core/making/notes-of-part';
import { renderPart, scheduleOfPart } from '~core/making/render-part';
import { loadTransforms } from '~core/dsp/real-fft';
import { projectRateHz } from '~core/units/time';
import { writeSlicePattern } from '~core/workbench/slices';
import { applySteps, settingAfter } from '~core/workbench/steps';
import { renderRequests, storedBytes } from './render-requests';
import type { MakeRequest, MakeResult } from './protocol';

/** What is made, as a file: a float WAV at the project's rate, or a Standard MIDI File. */
export async function makeSound(request: MakeRequest): Promise<MakeResult> {
  const { sources } = request;
  if (request.kind === 'steps') {
    await loadTransforms();
    const last = request.steps.at(-1);
    if (request.as === 'notes' && last?.kind === 'slices') {
      const setting = { ...request.setting, ...settingAfter(request.steps, request.setting) };
      return { bytes: writeSlicePattern(last, setting, 'Slices'), media: 'midi', silentLoopIds: [] };
    }
    const [source] = sources,
      { channels } = parseWav(await storedBytes(source.soundSha)),
      made = applySteps(channels, request.steps, request.setting);
    return { bytes: wavBytes(made.channels), media: 'audio', silentLoopIds: [] };
  }
  const { part, lengthBeats, tail } = request;
  if (request.as === 'notes') {
    const files = new Map<number, ReturnType<typeof parseSmf>>();
    for (const { loopId, media, soundSha } of sources) if (media === 'midi') files.set(loopId, parseSmf(await storedBytes(soundSha)));
    const notes = notesOfPart(part, sources, ({ loopId }) => files.get(loopId) ?? null);
    return { bytes: writePartNotes(part, notes, lengthBeats), media: 'midi', silentLoopIds: [] };
  }
  const schedule = scheduleOfPart(part, sources),
    { buffers, silent } = await renderRequests(schedule.requests);
  return {
    bytes: wavBytes(renderPart(part, schedule, buffers, lengthBeats, tail)),
    media: 'audio',
    silentLoopIds: sources.filter(({ soundSha }) => silent.has(soundSha)).map(({ loopId }) => loopId),
  };
}

const wavBytes = (channels: readonly Float32Array[]): Uint8Array =>
  writeWav({ sampleRateHz: projectRateHz, channels: [...channels] }, 'float32');
