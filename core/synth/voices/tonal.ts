import { addPartial, envelope, onePole, saw, StateVariable, tau, type Voice, type VoiceNote } from '../voice';

function render(note: VoiceNote, releaseSeconds: number, sample: (t: number, i: number) => number): Float32Array {
  const length = Math.round((note.heldSeconds + releaseSeconds) * note.rateHz),
    out = new Float32Array(length);
  for (let i = 0; i < length; i++) out[i] = sample(i / note.rateHz, i) * Math.min(1, (length - i) / 256);
  return out;
}

/** Plucked string (Karplus & Strong 1983; Jaffe & Smith 1983: fractional delay and tone filter). */
function pluckedString(note: VoiceNote, brightness: number, decaySeconds: number, pick: number, release = 0.12): Float32Array {
  const period = note.rateHz / note.hz - 0.5,
    whole = Math.floor(period),
    fraction = period - whole;
  const line = new Float32Array(whole + 2);
  const smooth = onePole(600 + 9000 * brightness * (0.4 + 0.6 * note.velocity), note.rateHz);
  let last = 0;
  for (let i = 0; i < line.length; i++) {
    last += smooth * (note.random() * 2 - 1 - last);
    line[i] = last;
  }
  const comb = Math.max(1, Math.round(whole * pick));
  const excited = line.map((value, i) => value - line[(i + line.length - comb) % line.length] * 0.9);
  const mean = excited.reduce((a, b) => a + b, 0) / excited.length;
  const scale = 0.75 / (Math.max(...excited.map(Math.abs)) || 1);
  for (let i = 0; i < line.length; i++) line[i] = (excited[i] - mean) * scale;
  const loss = 10 ** (-3 / decaySeconds / note.hz);
  let at = 0,
    previous = 0;
  return render(note, release * 3, (t) => {
    const older = line[(at + 1) % line.length],
      newer = line[(at + 2) % line.length];
    const read = older * fraction + newer * (1 - fraction);
    const averaged = 0.5 * (read + previous);
    previous = read;
    line[at] = averaged * loss;
    at = (at + 1) % line.length;
    return read * note.velocity * (t < note.heldSeconds ? 1 : Math.exp(-(t - note.heldSeconds) / release)) * Math.min(1, t / 0.0008);
  });
}

export const nylonGuitar: Voice = (note) => pluckedString(note, 0.25 + 0.3 * note.tone, 2.2, 0.18);
export const steelGuitar: Voice = (note) => pluckedString(note, 0.6 + 0.4 * note.tone, 3, 0.12);
export const banjo: Voice = (note) => pluckedString(note, 1, 0.7, 0.08, 0.05);
export const harp: Voice = (note) =>
  pluckedString({ ...note, heldSeconds: Math.max(note.heldSeconds, 0.8) }, 0.35 + 0.2 * note.tone, 2.5, 0.4, 0.4);
export const pizzicato: Voice = (note) => pluckedString({ ...note, heldSeconds: 0.12 }, 0.3, 0.5, 0.3, 0.09);

/** Fingered bass: a plucked string with a dark tone and a little growl. */
export const fingeredBass: Voice = (note) => {
  const string = pluckedString(note, 0.12 + 0.22 * note.tone, 2.4, 0.22, 0.05);
  let low = 0,
    phase = 0;
  const g = onePole(900 + 1600 * note.tone, note.rateHz);
  return string.map((value, i) => {
    low += g * (value - low);
    phase += note.hz / note.rateHz;
    const t = i / note.rateHz;
    const body = Math.sin(tau * phase) * envelope(t, note.heldSeconds, 0.004, 0.5, 0.35, 0.05) * 0.5 * note.velocity;
    return Math.tanh(1.4 * (low * 0.9 + body)) * 0.8;
  });
};

/** Upright bass: slower start, woody body, short ring. */
export const uprightBass: Voice = (note) => {
  const string = pluckedString(note, 0.08 + 0.1 * note.tone, 1.1, 0.3, 0.07);
  let phase = 0;
  return string.map((value, i) => {
    phase += note.hz / note.rateHz;
    const t = i / note.rateHz;
    return (
      Math.tanh(
        1.2 *
          (value * 0.7 +
            (Math.sin(tau * phase) + 0.3 * Math.sin(tau * 2 * phase)) *
              envelope(t, note.heldSeconds, 0.012, 0.35, 0.12, 0.06) *
              0.55 *
              note.velocity),
      ) * 0.85
    );
  });
};

/** Saw or square through a falling filter. */
export const synthBass: Voice = (note) => {
  const filter = new StateVariable(note.rateHz);
  let phase = 0,
    sub = 0;
  const step = note.hz / note.rateHz;
  return render(note, 0.08, (t) => {
    phase = (phase + step) % 1;
    sub = (sub + step / 2) % 1;
    const raw = note.tone < 0.5 ? saw(phase, step) : saw(phase, step) - saw((phase + 0.5) % 1, step);
    const cutoff = 120 + (500 + 2600 * note.tone) * note.velocity * Math.exp(-t / 0.12) + note.hz * 1.5;
    const sound = filter.step(raw * 0.6 + Math.sin(tau * sub) * 0.25, cutoff, 0.35 + 0.35 * note.tone);
    return Math.tanh(1.5 * sound) * envelope(t, note.heldSeconds, 0.003, 0.4, 0.6, 0.03) * note.velocity * 0.8;
  });
};

export const subBass: Voice = (note) => {
  let phase = 0;
  return render(note, 0.12, (t) => {
    phase += note.hz / note.rateHz;
    return (
      Math.tanh((1.1 + note.tone) * Math.sin(tau * phase)) * envelope(t, note.heldSeconds, 0.008, 1.2, 0.75, 0.04) * note.velocity * 0.75
    );
  });
};

/** Tine piano by two-operator FM with a bell-like partial that dies first (Chowning 1973). */
export const electricPiano: Voice = (note) => {
  const index = (0.5 + 1.8 * note.velocity) * (0.6 + 0.8 * note.tone);
  return render(note, 0.35, (t) => {
    const w = tau * note.hz * t;
    const tine = Math.sin(14 * w) * Math.exp(-t / 0.06) * 0.12 * note.velocity;
    const body = Math.sin(w + index * Math.exp(-t / 0.35) * Math.sin(w) + tine);
    return (
      (body * 0.75 + 0.15 * Math.sin(2 * w) * Math.exp(-t / 0.5)) *
      envelope(t, note.heldSeconds, 0.003, 1.1, 0.12, 0.11) *
      note.velocity *
      0.7
    );
  });
};

/** Struck strings: partials slightly sharp of harmonic, high ones dying sooner, and a felt thump. */
export const piano: Voice = (note) => {
  const partials = Math.min(16, Math.floor(9000 / note.hz)),
    stretch = 0.0003 + 0.0002 * (note.hz / 500);
  const rows = Array.from({ length: partials }, (_, k) => {
    const n = k + 1;
    return {
      hz: note.hz * n * Math.sqrt(1 + stretch * n * n),
      gain: Math.abs(Math.sin(n * Math.PI * 0.12)) / n ** (1.7 - 0.7 * note.velocity - 0.4 * note.tone),
      decay: (2.2 * Math.sqrt(200 / note.hz)) / (1 + 0.35 * k),
      phase: note.random(),
    };
  });
  const norm = 1.44 / rows.reduce((sum, row) => sum + row.gain, 0);
  const strings = new Float32Array(Math.round((note.heldSeconds + 0.3) * note.rateHz));
  for (const row of rows) {
    addPartial(strings, row.hz, row.gain * norm * 0.75, row.phase, row.decay, note.rateHz);
    addPartial(strings, row.hz, row.gain * norm * 0.25, row.phase, row.decay * 0.15, note.rateHz);
  }
  let thump = 0;
  const g = onePole(350, note.rateHz);
  return render(note, 0.3, (t, i) => {
    thump += g * (note.random() * 2 - 1 - thump);
    return (
      (strings[i] + thump * Math.exp(-t / 0.02) * 0.5) *
      Math.min(1, t / 0.0015) *
      (t < note.heldSeconds ? 1 : Math.exp(-(t - note.heldSeconds) / 0.08)) *
      note.velocity
    );
  });
};

const drawbars = [
  [0.5, 0.6],
  [1, 1],
  [1.5, 0.5],
  [2, 0.7],
  [3, 0.35],
  [4, 0.3],
  [6, 0.15],
] as const;
export const organ: Voice = (note) =>
  render(note, 0.06, (t) => {
    let sum = 0;
    const wobble = 1 + 0.0025 * Math.sin(tau * 6.3 * t);
    drawbars.forEach(([ratio, gain], k) => {
      sum += gain * (k > 3 ? note.tone * 1.5 : 1) * Math.sin(tau * note.hz * ratio * t * 1 + 0.4 * (wobble - 1) * note.hz * ratio);
    });
    return sum * 0.22 * envelope(t, note.heldSeconds, 0.006, 1, 1, 0.02) * (0.5 + 0.5 * note.velocity);
  });

export const clavinet: Voice = (note) => {
  const string = pluckedString({ ...note, heldSeconds: Math.min(note.heldSeconds, 0.5) }, 1, 0.8, 0.1, 0.02);
  const filter = new StateVariable(note.rateHz);
  return string.map((value) => {
    filter.step(value, 900 + 1800 * note.tone, 0.5);
    return Math.tanh(2 * (filter.band + value * 0.4)) * 0.55;
  });
};

/** Several detuned saws through a slow filter: strings, pads and brass are settings of this. */
function ensemble(
  note: VoiceNote,
  options: { voices: number; detuneCents: number; attack: number; release: number; cutoffHz: number; sweep: number; vibrato: number },
): Float32Array {
  const { voices, detuneCents, attack, release, cutoffHz, sweep, vibrato } = options;
  const rows = Array.from({ length: voices }, (_, k) => ({
    phase: note.random(),
    ratio: 2 ** (((voices === 1 ? 0 : (k / (voices - 1)) * 2 - 1) * detuneCents + (note.random() - 0.5) * 3) / 1200),
    speed: 4.6 + note.random(),
    start: note.random(),
  }));
  const filter = new StateVariable(note.rateHz),
    { rateHz } = note;
  const length = Math.round((note.heldSeconds + release * 3) * rateHz),
    out = new Float32Array(length);
  for (const row of rows) {
    let phase = row.phase,
      step = 0;
    for (let i = 0; i < length; i++) {
      if (i % 32 === 0) {
        const t = i / rateHz;
        step = (note.hz * row.ratio * (1 + vibrato * Math.min(1, t / 0.5) * Math.sin(tau * (row.speed * t + row.start)))) / rateHz;
      }
      phase += step;
      if (phase >= 1) phase -= 1;
      out[i] += saw(phase, step);
    }
  }
  const scale = (note.velocity * 0.42) / Math.sqrt(voices),
    cutoff = cutoffHz * (0.5 + 0.5 * note.velocity);
  for (let i = 0; i < length; i++) {
    const t = i / rateHz,
      open = envelope(t, note.heldSeconds, attack * 1.3, 1.5, 0.7, release);
    out[i] =
      filter.step(out[i], cutoff + sweep * open, 0.1) *
      envelope(t, note.heldSeconds, attack, 2, 0.85, release) *
      scale *
      Math.min(1, (length - i) / 256);
  }
  return out;
}

export const stringSection: Voice = (note) =>
  ensemble(note, {
    voices: 5,
    detuneCents: 11,
    attack: 0.09,
    release: 0.14,
    cutoffHz: 900 + 1500 * note.tone,
    sweep: 1400,
    vibrato: 0.0035,
  });
export const cello: Voice = (note) =>
  ensemble(note, { voices: 1, detuneCents: 0, attack: 0.06, release: 0.1, cutoffHz: 700 + 900 * note.tone, sweep: 1100, vibrato: 0.006 });
export const pad: Voice = (note) =>
  ensemble(note, {
    voices: 4,
    detuneCents: 14,
    attack: 0.35 - 0.2 * note.tone,
    release: 0.4,
    cutoffHz: 350 + 800 * note.tone,
    sweep: 700,
    vibrato: 0.001,
  });
export const brass: Voice = (note) =>
  ensemble(note, {
    voices: 3,
    detuneCents: 6,
    attack: 0.035,
    release: 0.06,
    cutoffHz: 350,
    sweep: 1800 + 2600 * note.velocity * (0.5 + note.tone),
    vibrato: 0.002,
  });

export const lead: Voice = (note) => {
  const filter = new StateVariable(note.rateHz);
  let a = note.random(),
    b = note.random();
  return render(note, 0.15, (t) => {
    const bend = 1 + 0.004 * Math.min(1, t / 0.3) * Math.sin(tau * 5.4 * t);
    const step = (note.hz * bend) / note.rateHz;
    a = (a + step) % 1;
    b = (b + step * 1.004) % 1;
    const raw = note.tone < 0.5 ? saw(a, step) + saw(b, step) : saw(a, step) - saw((a + 0.35) % 1, step);
    return (
      filter.step(raw * 0.5, 900 + 2500 * note.tone + 2200 * Math.exp(-t / 0.2) * note.velocity, 0.3) *
      envelope(t, note.heldSeconds, 0.008, 0.8, 0.65, 0.07) *
      note.velocity *
      0.6
    );
  });
};

export const synthPluck: Voice = (note) => {
  const filter = new StateVariable(note.rateHz);
  let a = note.random(),
    b = note.random();
  const step = note.hz / note.rateHz;
  return render({ ...note, heldSeconds: Math.max(0.1, note.heldSeconds) }, 0.3, (t) => {
    a = (a + step) % 1;
    b = (b + step * 1.006) % 1;
    return (
      filter.step((saw(a, step) + saw(b, step)) * 0.5, 250 + (1500 + 4000 * note.tone) * note.velocity * Math.exp(-t / 0.09), 0.25) *
      envelope(t, 0.1, 0.002, 0.16, 0.1, 0.18) *
      note.velocity *
      0.8
    );
  });
};

/** Wooden bars: the fourth partial of a tuned bar sounds two octaves up (Fletcher & Rossing 1998). */
export const marimba: Voice = (note) =>
  render(
    { ...note, heldSeconds: 0.05 },
    0.7,
    (t) =>
      (Math.sin(tau * note.hz * t) * Math.exp(-t / (0.2 + 40 / note.hz)) +
        0.3 * Math.sin(tau * note.hz * 3.93 * t) * Math.exp(-t / 0.05) +
        0.1 * Math.sin(tau * note.hz * 9.2 * t) * Math.exp(-t / 0.015)) *
      Math.min(1, t / 0.001) *
      note.velocity *
      0.7,
  );

/** Thumbed tongues of steel: soft start, a clang at 5.4 times. */
export const kalimba: Voice = (note) =>
  render(
    { ...note, heldSeconds: 0.05 },
    1.1,
    (t) =>
      (Math.sin(tau * note.hz * t) * Math.exp(-t / 0.4) + 0.16 * Math.sin(tau * note.hz * 5.4 * t) * Math.exp(-t / 0.04)) *
      Math.min(1, t / 0.002) *
      note.velocity *
      0.7,
  );

const bellRatios = [
  [0.5, 0.4, 1],
  [1, 1, 0.9],
  [1.19, 0.5, 0.6],
  [1.56, 0.25, 0.5],
  [2, 0.5, 0.4],
  [2.76, 0.25, 0.25],
  [4.1, 0.15, 0.15],
] as const;
export const bell: Voice = (note) => {
  const ring = new Float32Array(Math.round(2.05 * note.rateHz));
  for (const [ratio, gain, decay] of bellRatios) addPartial(ring, note.hz * ratio, gain * 0.28 * note.velocity, 0, decay, note.rateHz);
  return ring.map((value, i) => value * Math.min(1, i / note.rateHz / 0.001) * Math.min(1, (ring.length - i) / 256));
};

const vowels = { a: [730, 1090, 2440], o: [400, 760, 2400], e: [530, 1840, 2480] } as const; // Peterson & Barney 1952, rounded

/** A sung vowel: glottal saw through three formants; two vowels are morphed over the note. */
export const voice: Voice = (note) => {
  const filters = [0, 1, 2].map(() => new StateVariable(note.rateHz));
  const from = note.tone < 0.5 ? vowels.o : vowels.a,
    to = note.tone < 0.3 ? vowels.a : vowels.e;
  let phase = note.random(),
    breath = 0;
  return render(note, 0.25, (t) => {
    const step = (note.hz * (1 + 0.007 * Math.min(1, t / 0.4) * Math.sin(tau * 5.1 * t) - 0.02 * Math.exp(-t / 0.05))) / note.rateHz;
    phase = (phase + step) % 1;
    breath = note.random() * 2 - 1;
    const source = saw(phase, step) * 0.8 + breath * 0.04,
      mix = Math.min(1, t / Math.max(0.2, note.heldSeconds));
    let sum = 0;
    filters.forEach((filter, k) => {
      filter.step(source, from[k] * (1 - mix) + to[k] * mix, 0.88);
      sum += filter.band * [1, 0.6, 0.25][k];
    });
    return sum * 0.5 * envelope(t, note.heldSeconds, 0.05, 1.5, 0.8, 0.08) * note.velocity;
  });
};

export const flute: Voice = (note) => {
  const filter = new StateVariable(note.rateHz);
  return render(note, 0.15, (t) => {
    const w = tau * note.hz * t + ((0.03 * note.hz) / 100) * Math.sin(tau * 5 * t) * Math.min(1, t / 0.4);
    filter.step(note.random() * 2 - 1, note.hz * 1.02, 0.9);
    return (
      (Math.sin(w) + 0.25 * Math.sin(2 * w) + 0.08 * Math.sin(3 * w) + filter.band * 0.08) *
      envelope(t, note.heldSeconds, 0.05, 1, 0.9, 0.05) *
      note.velocity *
      0.6
    );
  });
};
