import { mendOf, rubsIn } from '~core/arrangement/harmony/clash-meter';
import type { RubsMessage, RubsReply } from './rubs-protocol';

self.onmessage = ({ data: { id, project, sources, mend } }: MessageEvent<RubsMessage>) => {
  const reply: RubsReply = mend
    ? { id, rubs: [], mend: mendOf(mend, project, sources) }
    : { id, rubs: rubsIn(project, sources), mend: null };
  self.postMessage(reply);
};
