import { newClip, newTrack, type Clip, type Track } from '../../core/arrangement/tree';

/** An empty track at unity gain in the middle, but for `changes`. */
export const plainTrack = (changes: Partial<Track> = {}): Track => newTrack({ id: 't', name: 'T', ...changes });

/** Four bars of the loop 1 from the start on, as it comes, but for `changes`. */
export const plainClip = (changes: Partial<Clip> & { readonly loopId?: number } = {}): Clip =>
  newClip({ id: 'c', loopId: 1, startBeat: 0, lengthBeats: 16, ...changes });
