import type { FitRequest } from '~core/arrangement/fit-request';
import { fitPriority, type FitPool } from './fit-pool';
import type { AudioGraph } from './graph';

/** Sounds that are heard at once and once: notes that are being written. */
export class HeardOnce {
  private readonly sources = new Set<AudioBufferSourceNode>();

  constructor(
    private readonly graph: AudioGraph,
    private readonly pool: FitPool,
  ) {}

  /** Sounds what a request makes, if it is still wanted when that is made. */
  async hear(request: FitRequest, isWanted: () => boolean): Promise<void> {
    const buffer = await this.pool.request(request, fitPriority.soundsNext);
    if (!isWanted()) return;
    const source = new AudioBufferSourceNode(this.graph.context, { buffer });
    source.connect(this.graph.click);
    source.onended = () => this.sources.delete(source);
    source.start();
    this.sources.add(source);
  }

  /** Ends all of them: the piece begins. */
  end(): void {
    for (const source of this.sources) source.stop();
  }
}
