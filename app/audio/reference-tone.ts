import { noteToHz } from '~core/units/pitch';

const fadeSeconds = 0.03;

/** Tones to compare by ear: a drone that stays, and notes that are struck. */
export class ReferenceTone {
  private held: { readonly gain: GainNode; readonly sources: readonly OscillatorNode[] } | null = null;

  constructor(
    private readonly context: AudioContext,
    private readonly into: AudioNode,
  ) {}

  /** A drone of a note, its fifth and octave, and the third of a chord if one is wanted (3 or 4 semitones); until another one or null. */
  drone(note: number | null, third: number | null = null): void {
    const now = this.context.currentTime;
    if (this.held) {
      this.held.gain.gain.setTargetAtTime(0, now, fadeSeconds);
      for (const source of this.held.sources) source.stop(now + fadeSeconds * 6);
      this.held = null;
    }
    if (note !== null) this.held = this.sound([note, ...(third === null ? [] : [note + third]), note + 7, note + 12], 0.16, now, null);
  }

  /** Notes together, dying away over `seconds`. */
  strike(notes: readonly number[], seconds: number): void {
    this.sound(notes, 0.3, this.context.currentTime, seconds);
  }

  /** Notes one after the other. */
  line(notes: readonly number[], secondsEach: number): void {
    notes.forEach((note, k) => this.sound([note], 0.25, this.context.currentTime + 0.02 + k * secondsEach, secondsEach));
  }

  private sound(notes: readonly number[], level: number, at: number, seconds: number | null) {
    const gain = new GainNode(this.context, { gain: 0 });
    gain.connect(this.into);
    gain.gain.setValueAtTime(0, at);
    gain.gain.linearRampToValueAtTime(level / Math.sqrt(notes.length), at + fadeSeconds);
    if (seconds !== null) gain.gain.setTargetAtTime(0, at + fadeSeconds, seconds / 4);
    const sources = notes.map((note) => {
      const source = new OscillatorNode(this.context, { type: 'triangle', frequency: noteToHz(note) });
      source.connect(gain);
      source.start(at);
      if (seconds !== null) source.stop(at + seconds * 1.5);
      return source;
    });
    sources[0].onended = () => gain.disconnect();
    return { gain, sources };
  }
}
