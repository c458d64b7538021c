/** What the page says while the browser has taken the sound away. */
export const pausedWords = 'The browser has paused the sound. Click anywhere to go on.';

/** A tab that wakes, a device that was plugged in or out: the sound may have been taken away without a word, and is asked for again. */
export function resumeOnWake(context: AudioContext, isWanted: () => boolean): void {
  const wake = () => {
    if (document.visibilityState === 'visible' && isWanted() && context.state !== 'running') void context.resume();
  };
  document.addEventListener('visibilitychange', wake);
  navigator.mediaDevices?.addEventListener('devicechange', wake);
}
