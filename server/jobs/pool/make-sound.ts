import { parseSmf } from '~core/formats/smf/parse';
import { parseWav } from '~core/formats/wav/parse';
import { writeWav } from '~core/formats/wav/write';
import { instrumentOfPart, notesOfPart, writePartNotes } from '~core/making/notes-of-part';
import { renderPart, scheduleOfPart } from '~core/making/render-part';
import { loadTransforms } from '~core/dsp/real-fft';
import { projectRateHz } from '~core/units/time';
import { writeSlicePattern } from '~core/workbench/slices';
import { applySteps, settingAfter } from '~core/workbench/steps';
import { renderRequests, storedBytes } from './render-requests';
import type { MakeRequest, MakeResult } from './protocol';

/** What is made, as a file: a float WAV at the project's rate, or a Standard MIDI File; or in words why it cannot be. */
export async function makeSound(request: MakeRequest): Promise<MakeResult> {
  try {
    return await (request.kind === 'steps' ? ofSteps(request) : ofPart(request));
  } catch (error) {
    // What steps ask for and cannot be had is a fault of theirs, and passes at no other try.
    if (request.kind === 'steps' && error instanceof RangeError) return { ok: false, message: error.message };
    throw error;
  }
}

type Making<K extends MakeRequest['kind']> = Extract<MakeRequest, { readonly kind: K }>;

async function ofSteps({ as, steps, setting, sources: [source] }: Making<'steps'>): Promise<MakeResult> {
  await loadTransforms();
  const last = steps.at(-1);
  if (as === 'notes' && last?.kind === 'slices') {
    const bytes = writeSlicePattern(last, { ...setting, ...settingAfter(steps, setting) }, 'Slices');
    return { ok: true, bytes, media: 'midi', silentLoopIds: [] };
  }
  const { channels } = applySteps(parseWav(await storedBytes(source.soundSha)).channels, steps, setting);
  return { ok: true, bytes: wavBytes(channels), media: 'audio', silentLoopIds: [] };
}

async function ofPart({ as, part, lengthBeats, tail, sources }: Making<'part'>): Promise<MakeResult> {
  if (as === 'notes') {
    const files = new Map<number, ReturnType<typeof parseSmf>>();
    for (const { loopId, media, soundSha } of sources) if (media === 'midi') files.set(loopId, parseSmf(await storedBytes(soundSha)));
    const notes = notesOfPart(part, sources, ({ loopId }) => files.get(loopId) ?? null);
    return { ok: true, bytes: writePartNotes(part, notes, lengthBeats, instrumentOfPart(part, sources)), media: 'midi', silentLoopIds: [] };
  }
  const schedule = scheduleOfPart(part, sources),
    { buffers, silent } = await renderRequests(schedule.requests);
  return {
    ok: true,
    bytes: wavBytes(renderPart(part, schedule, buffers, lengthBeats, tail)),
    media: 'audio',
    silentLoopIds: sources.filter(({ soundSha }) => silent.has(soundSha)).map(({ loopId }) => loopId),
  };
}

const wavBytes = (channels: readonly Float32Array[]): Uint8Array =>
  writeWav({ sampleRateHz: projectRateHz, channels: [...channels] }, 'float32');
