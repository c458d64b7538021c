import { useEffect, useState } from 'react';
import { recordSound } from './record-sound';
import { Recorder } from './recorder';

/** The microphone for a part of a page; who leaves that is recorded no longer. */
export function useRecorder(): Recorder {
  const [recorder] = useState(() => new Recorder(recordSound));
  useEffect(() => () => recorder.giveUp(), [recorder]);
  return recorder;
}
