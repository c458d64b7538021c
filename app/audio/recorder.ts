import type { Recording } from './record-sound';

/** Opens the microphone; `onFull` is called when a take is as long as one can be. */
export type OpenMicrophone = (shared: AudioContext | null, onFull: () => void) => Promise<Recording>;

/** The microphone of a page: one take at a time, and none that nobody waits for any more. */
export class Recorder {
  private turn = 0;
  private running: Recording | null = null;

  constructor(private readonly open: OpenMicrophone) {}

  /**
   * Begins a take; one that runs is thrown away.
   * @param shared the context in which the project plays; null: one of its own
   * @returns null when it was given up while the person was asked for the microphone, which is off again then
   * @throws when there is no microphone, or it may not be used, and somebody still waits for it
   */
  async start(shared: AudioContext | null, onFull: () => void): Promise<Recording | null> {
    this.giveUp();
    const turn = ++this.turn,
      isWanted = () => turn === this.turn;
    try {
      const made = await this.open(shared, () => isWanted() && onFull());
      if (isWanted()) return (this.running = made);
      made.stop();
    } catch (error) {
      if (isWanted()) throw error;
    }
    return null;
  }

  /** Ends the take, see `Recording.stop`; null when none runs. */
  end(fromFrame?: number): Blob | null {
    const take = this.running;
    this.running = null;
    this.turn++;
    return take?.stop(fromFrame) ?? null;
  }

  /** What was begun is not wanted: the microphone is off. */
  giveUp(): void {
    this.end();
  }
}
