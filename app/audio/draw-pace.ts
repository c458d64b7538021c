const smoothing = 0.1,
  /** Screens show 60 frames a second or more: so much between two is a machine that does not keep up. */
  lateMs = 21,
  firstRestMs = 10_000,
  longestRestMs = 160_000,
  /** One that is later says no more; a page that was hidden or stood still says nothing of its pace. */
  mostMs = 40,
  pauseMs = 250;

/**
 * Which frames of the screen are drawn on: all of them, or every second one for a while where they come late. A picture that changes costs the same
 * whatever of it changes, several milliseconds where no graphics processor helps, and the sound comes first.
 */
export class DrawPace {
  private before = -Infinity;
  private averageMs = 16;
  private restsUntil = -Infinity;
  private restMs = firstRestMs;
  private isOdd = false;

  /** @param nowMs when the frame began @returns whether to draw on it */
  shouldDraw(nowMs: number): boolean {
    const sinceMs = nowMs - this.before;
    this.before = nowMs;
    this.isOdd = !this.isOdd;
    if (nowMs < this.restsUntil) return this.isOdd;
    if (sinceMs > pauseMs) this.averageMs = 16;
    else this.averageMs += smoothing * (Math.min(sinceMs, mostMs) - this.averageMs);
    if (this.averageMs <= lateMs) return true;
    // Tried again later and later where it was in vain.
    this.restsUntil = nowMs + this.restMs;
    this.restMs = Math.min(longestRestMs, 2 * this.restMs);
    this.averageMs = 16;
    return this.isOdd;
  }
}
