import { fitKey, fitLoop, type Fitted, type LoopSource } from '~core/arrangement/fit-request';
import { scheduleLaps, scheduleProject, type Schedule, type SoundEvent } from '~core/arrangement/schedule';
import { emptyProject, projectEndBeat, type Project } from '~core/arrangement/tree';
import { dbToRatio } from '~core/units/level';
import { beatsPerBar, projectRateHz } from '~core/units/time';
import type { MeterMessage } from '~workers/protocol';
import meterUrl from '../../workers/meter.worklet.ts?worker&url';
import type { LoopRow } from '~server/services/loop-rows';
import { FitPool, fitPriority } from './fit-pool';
import { createEngineStore, type AuditionSettings } from './store';
import {
  beatFrames,
  frameOfRunningBeat,
  nextStart,
  passesBetween,
  projectBeat,
  runningBeatAt,
  type BeatRange,
  type Transport,
} from './transport';
import { cutVoice, endVoice, startVoice, type Voice } from './voices';

/** How far ahead events are handed to the audio thread. A busy page may stall this long without a gap. */
const lookAheadFrames = Math.round(projectRateHz * 0.9);
/** The soonest a new thing can start: one message of the clock plus the way to the audio thread. */
const leadFrames = Math.round(projectRateHz * 0.06);
const cutFadeFrames = 256;
/** Every candidate is brought to this loudness when *even level* is on. */
const evenLufs = -18;

interface TrackNodes {
  readonly gain: GainNode;
  readonly pan: StereoPannerNode;
}
interface CandidateVoices {
  readonly key: string;
  readonly startBeat: number;
  readonly events: readonly SoundEvent[];
  next: number;
  readonly originFrame: number;
  voices: Voice[];
}

/**
 * The one engine. Its time is the frame counter of the audio thread, told by the meter worklet; that message also drives the
 * look-ahead, so that nothing depends on timers. It owns one AudioContext and lives as long as the page.
 */
export class AudioEngine {
  readonly store = createEngineStore();
  private context: AudioContext | null = null;
  private pool: FitPool | null = null;
  private master: GainNode | null = null;
  private candidateGain: GainNode | null = null;
  private starting: Promise<void> | null = null;
  private readonly tracks = new Map<string, TrackNodes>();
  private project: Project = emptyProject('none', 120, null);
  private sources: ReadonlyMap<number, LoopSource> = new Map();
  private schedule: Schedule = { events: [], requests: new Map(), endFrame: 0 };
  private transport: Transport | null = null;
  private stoppedBeat = 0;
  private scheduled = new Map<string, { voice: Voice; event: SoundEvent }>();
  private current: CandidateVoices | null = null;
  private wish = 0;
  private planWish = 0;
  private peaks: [number, number] = [0, 0];
  private hasProject = false;

  /** Opens the audio device; must first be called in a click or key press. */
  async open(): Promise<void> {
    this.starting ??= this.start();
    await this.starting;
    if (this.context?.state === 'suspended') await this.context.resume();
  }

  private async start(): Promise<void> {
    const context = new AudioContext({ sampleRate: projectRateHz, latencyHint: 'interactive' });
    this.context = context;
    this.pool = new FitPool(projectRateHz);
    await context.audioWorklet.addModule(meterUrl);
    const meter = new AudioWorkletNode(context, 'garnetfinch-meter', { outputChannelCount: [2] });
    meter.port.onmessage = ({ data }: MessageEvent<MeterMessage>) => {
      this.peaks = [Math.max(this.peaks[0], data.peaks[0]), Math.max(this.peaks[1], data.peaks[1])];
      this.pump();
    };
    this.master = new GainNode(context, { gain: dbToRatio(this.project.masterGainDb) });
    this.candidateGain = new GainNode(context);
    this.candidateGain.connect(this.master);
    this.master.connect(meter).connect(context.destination);
    this.applyTracks();
    this.requestProject();
  }

  private now(): number {
    return Math.round((this.context?.currentTime ?? 0) * projectRateHz);
  }

  /** The project in the room and the loops it uses; null for none. Playing goes on, at the same place. */
  setProject(project: Project | null, sources: ReadonlyMap<number, LoopSource>): void {
    const next = project ?? emptyProject('none', 120, null);
    this.hasProject = project !== null;
    const tempoChanged = next.tempoBpm !== this.project.tempoBpm || next.meter !== this.project.meter,
      keyChanged = JSON.stringify(next.key) !== JSON.stringify(this.project.key);
    this.sources = sources;
    const schedule = scheduleProject(next, sources),
      wish = ++this.planWish;
    const adopt = () => {
      if (wish === this.planWish) this.adopt(next, schedule, tempoChanged || keyChanged);
    };
    this.requestProject(schedule);
    // At a new tempo or key every buffer is new: the old ones go on until those that sound next are ready.
    if (!this.transport || !this.pool || (!tempoChanged && !keyChanged)) return adopt();
    void Promise.allSettled([...schedule.requests.values()].map((request) => this.pool?.request(request, fitPriority.project))).then(adopt);
  }

  private requestProject(schedule: Schedule = this.schedule): void {
    if (!this.pool) return;
    const kept = new Set(schedule.requests.keys());
    this.pool.drop(fitPriority.project, kept);
    let open = 0;
    const count = () => this.store.setState({ fittingCount: open });
    for (const request of schedule.requests.values()) {
      if (this.pool.peek(request)) continue;
      open++;
      this.pool
        .request(request, fitPriority.project)
        .catch((error: Error) => {
          if (error.message !== 'no longer wanted') this.store.setState({ trouble: error.message });
        })
        .finally(() => {
          open--;
          count();
        });
    }
    count();
  }

  private adopt(project: Project, schedule: Schedule, refitCandidate: boolean): void {
    const at = this.now() + leadFrames;
    const beat = this.transport ? runningBeatAt(this.transport, at) : null;
    this.project = project;
    this.schedule = schedule;
    const range = this.rangeOf(project);
    this.store.setState({ range });
    this.applyTracks();
    if (this.transport && beat !== null) {
      const position = projectBeat(this.transport, beat),
        sameTempo = this.transport.tempoBpm === project.tempoBpm;
      const keepGrid =
        sameTempo && this.transport.range?.startBeat === range?.startBeat && this.transport.range?.endBeat === range?.endBeat;
      if (!keepGrid) {
        this.transport = {
          originFrame: at,
          originBeat: position,
          tempoBpm: project.tempoBpm,
          barBeats: beatsPerBar(project.meter),
          range,
          sampleRateHz: projectRateHz,
        };
        // Project events are numbered by pass; a new grid numbers them anew.
        for (const { voice } of this.scheduled.values()) cutVoice(voice, at, cutFadeFrames, projectRateHz);
        this.scheduled.clear();
      } else this.dropChangedEvents(at);
    }
    const { candidate } = this.store.getState();
    if (refitCandidate && candidate && !candidate.alone) void this.audition(candidate.row);
    this.pump();
  }

  /** Voices whose event is not in the new schedule are faded out; the others go on untouched. */
  private dropChangedEvents(at: number): void {
    const wanted = new Set(this.schedule.events.map(eventName));
    for (const [id, { voice, event }] of this.scheduled)
      if (!wanted.has(eventName(event))) {
        cutVoice(voice, at, cutFadeFrames, projectRateHz);
        this.scheduled.delete(id);
      }
  }

  private userRange: BeatRange | null = null;

  private rangeOf(project: Project): BeatRange | null {
    if (this.userRange) return this.userRange;
    const bar = beatsPerBar(project.meter),
      end = Math.ceil(projectEndBeat(project) / bar - 1e-6) * bar;
    return end > 0 ? { startBeat: 0, endBeat: end } : null;
  }

  /** The range that repeats; null for the whole project. */
  setRange(range: BeatRange | null): void {
    this.userRange = range && range.endBeat > range.startBeat ? range : null;
    this.adopt(this.project, this.schedule, false);
  }

  private applyTracks(): void {
    const { context, master } = this;
    if (!context || !master) return;
    const smooth = (parameter: AudioParam, value: number) =>
      this.transport ? parameter.setTargetAtTime(value, context.currentTime, 0.005) : parameter.setValueAtTime(value, context.currentTime);
    smooth(master.gain, dbToRatio(this.project.masterGainDb));
    for (const track of this.project.tracks) {
      let nodes = this.tracks.get(track.id);
      if (!nodes) {
        nodes = { gain: new GainNode(context, { gain: dbToRatio(track.gainDb) }), pan: new StereoPannerNode(context, { pan: track.pan }) };
        nodes.gain.connect(nodes.pan).connect(master);
        this.tracks.set(track.id, nodes);
      }
      smooth(nodes.gain.gain, dbToRatio(track.gainDb));
      smooth(nodes.pan.pan, track.pan);
    }
    for (const [id, nodes] of this.tracks)
      if (!this.project.tracks.some((track) => track.id === id)) {
        nodes.pan.disconnect();
        this.tracks.delete(id);
      }
  }

  /** Plays from where it was stopped. A candidate that sounds alone joins the project. */
  async play(): Promise<void> {
    await this.open();
    if (this.transport || !this.context) return;
    const range = this.rangeOf(this.project);
    const startBeat = range && this.stoppedBeat >= range.endBeat ? range.startBeat : this.stoppedBeat;
    this.transport = {
      originFrame: this.now() + leadFrames,
      originBeat: startBeat,
      tempoBpm: this.project.tempoBpm,
      barBeats: beatsPerBar(this.project.meter),
      range,
      sampleRateHz: projectRateHz,
    };
    this.store.setState({ playing: true, range });
    const { candidate } = this.store.getState();
    if (candidate?.alone) void this.audition(candidate.row);
    this.pump();
  }

  stop(): void {
    if (!this.transport) return;
    const at = this.now() + 128;
    this.stoppedBeat = Math.max(0, projectBeat(this.transport, runningBeatAt(this.transport, at)));
    for (const { voice } of this.scheduled.values()) cutVoice(voice, at, cutFadeFrames, projectRateHz);
    this.scheduled.clear();
    this.transport = null;
    this.store.setState({ playing: false });
    this.stopAudition();
  }

  toggle(): void {
    if (this.transport) this.stop();
    else void this.play();
  }

  /** Moves the playhead; while playing, the music goes on from there at once. */
  seek(beat: number): void {
    this.stoppedBeat = Math.max(0, beat);
    if (!this.transport) return;
    const at = this.now() + leadFrames;
    for (const { voice } of this.scheduled.values()) cutVoice(voice, at, cutFadeFrames, projectRateHz);
    this.scheduled.clear();
    this.transport = { ...this.transport, originFrame: at, originBeat: this.stoppedBeat };
    const { candidate } = this.store.getState();
    if (candidate && !candidate.alone) void this.audition(candidate.row);
    this.pump();
  }

  /** Beat under the playhead, for drawing. */
  positionBeat(): number {
    if (!this.transport || !this.context) return this.stoppedBeat;
    return Math.max(0, projectBeat(this.transport, runningBeatAt(this.transport, this.context.currentTime * projectRateHz)));
  }

  /** 0–1 through the candidate's lap, for drawing; null while it does not sound. */
  candidatePhase(): number | null {
    if (!this.current || !this.context) return null;
    const { candidate } = this.store.getState();
    if (!candidate) return null;
    const since = this.context.currentTime * projectRateHz - this.current.originFrame;
    if (since < 0) return null;
    const lap = Number.isFinite(candidate.fitted.lapFrames) ? candidate.fitted.lapFrames : candidate.fitted.request.targetFrames;
    return Number.isFinite(candidate.fitted.lapFrames) ? (since % lap) / lap : since < lap ? since / lap : null;
  }

  /** Peaks since the last call, as ratios. */
  takePeaks(): readonly [number, number] {
    const { peaks } = this;
    this.peaks = [0, 0];
    return peaks;
  }

  /** What is in the fit cache. */
  figures() {
    return this.pool?.figures() ?? null;
  }

  private pump(): void {
    this.pumpProject();
    this.pumpCandidate();
  }

  private pumpProject(): void {
    const { transport, context, pool } = this;
    if (!transport || !context || !pool) return;
    const now = this.now(),
      horizon = now + lookAheadFrames;
    for (const [id, { voice }] of this.scheduled) if (voice.endFrame < now - projectRateHz) this.scheduled.delete(id);
    const fromBeat = runningBeatAt(transport, now),
      toBeat = runningBeatAt(transport, horizon);
    for (const pass of passesBetween(transport, fromBeat, toBeat)) {
      const zero = Math.round(frameOfRunningBeat(transport, pass.shiftBeats));
      const passStart = Math.round(frameOfRunningBeat(transport, pass.fromBeat)),
        passEnd = Number.isFinite(pass.toBeat) ? Math.round(frameOfRunningBeat(transport, pass.toBeat)) : Infinity;
      for (const event of this.schedule.events) {
        const startFrame = zero + event.startFrame,
          endFrame = Math.min(zero + event.endFrame, passEnd);
        if (startFrame >= horizon) break;
        const id = `${pass.index}/${event.id}`;
        if (endFrame <= Math.max(now, passStart) || this.scheduled.has(id)) continue;
        const request = this.schedule.requests.get(event.bufferKey),
          buffer = request && pool.peek(request),
          into = this.tracks.get(event.trackId)?.gain;
        if (!buffer || !into) continue;
        // What should have begun already (a seek, a buffer that came late) begins now, at its right place.
        const late = Math.max(0, Math.max(passStart, now + (startFrame < now ? leadFrames : 0)) - startFrame),
          from = startFrame + late;
        if (from >= endFrame || from >= passEnd) continue;
        const voice = startVoice(context, {
          id,
          buffer,
          into,
          startFrame: from,
          endFrame,
          offsetFrame: event.offsetFrame + late,
          cyclic: event.cyclic,
          fadeInFrames: late > 0 ? cutFadeFrames : event.fadeInFrames,
          fadeOutFrames: event.fadeOutFrames,
          gainRatio: event.gainRatio,
        });
        this.scheduled.set(id, { voice, event });
      }
    }
  }

  private pumpCandidate(): void {
    const { current, context, pool } = this,
      { candidate } = this.store.getState();
    if (!current || !context || !pool || !candidate || !this.candidateGain) return;
    const now = this.now(),
      buffer = pool.peek(candidate.fitted.request);
    if (!buffer) return;
    current.voices = current.voices.filter((voice) => voice.endFrame > now);
    while (current.next < current.events.length && current.events[current.next].startFrame < now + lookAheadFrames) {
      const event = current.events[current.next++];
      if (event.endFrame <= now) continue;
      const late = Math.max(0, now + 256 - event.startFrame);
      current.voices.push(
        startVoice(context, {
          ...event,
          buffer,
          into: this.candidateGain,
          startFrame: event.startFrame + late,
          offsetFrame: event.offsetFrame + late,
          fadeInFrames: late > 0 ? cutFadeFrames : event.fadeInFrames,
        }),
      );
    }
    if (candidate.phase === 'waiting' && now >= current.originFrame)
      this.store.setState({ candidate: { ...candidate, phase: 'sounding' } });
  }

  /** How a loop would be made to belong, with the switches as they are. */
  fit(source: LoopSource): Fitted {
    const { settings } = this.store.getState(),
      alone = !this.transport;
    return fitLoop(source, {
      tempoBpm: this.project.tempoBpm,
      key: this.project.key,
      followTempo: !alone && settings.fitTempo,
      followKey: !alone && settings.fitKey,
    });
  }

  /**
   * Makes a loop the candidate. While the project plays it comes in on the next line it is allowed to, fitted, and takes over
   * from the one before on the same frame; until it is ready the old one goes on. While stopped it is heard alone, as recorded.
   */
  async audition(row: LoopRow): Promise<void> {
    const wish = ++this.wish;
    await this.open();
    if (wish !== this.wish || !this.pool || !this.context) return;
    const alone = !this.transport,
      fitted = this.fit(row.source);
    this.store.setState({ candidate: { row, phase: 'fitting', alone, fitted, message: null }, trouble: null });
    let buffer: AudioBuffer;
    try {
      buffer = await this.pool.request(fitted.request, fitPriority.soundsNext);
    } catch (error) {
      if (wish === this.wish)
        this.store.setState({
          candidate: { row, phase: 'failed', alone, fitted, message: error instanceof Error ? error.message : 'Fitting failed.' },
        });
      return;
    }
    if (wish !== this.wish || buffer.length === 0) return;
    this.startCandidate(row, fitted, alone && !this.transport);
  }

  private startCandidate(row: LoopRow, fitted: Fitted, alone: boolean): void {
    if (!this.candidateGain || !this.context) return;
    const earliest = this.now() + (alone ? 512 : leadFrames),
      { transport } = this,
      { settings } = this.store.getState();
    const startBeat = transport ? nextStart(transport, runningBeatAt(transport, earliest), settings.startOn) : 0;
    const startExact = transport ? frameOfRunningBeat(transport, startBeat) : earliest;
    const longExact = (transport ? beatFrames(transport) : projectRateHz / 2) * 4096;
    const events = scheduleLaps({
      id: `candidate-${this.wish}`,
      trackId: 'candidate',
      fitted,
      startExact,
      endExact: startExact + longExact,
      offsetExact: 0,
      gainRatio: 1,
    });
    const swapFrame = Math.round(startExact);
    this.endCurrent(swapFrame);
    this.current = { key: fitKey(fitted.request), startBeat, events, next: 0, originFrame: swapFrame, voices: [] };
    const level = this.levelDb(row, fitted);
    this.candidateGain.gain.cancelScheduledValues(swapFrame / projectRateHz);
    this.candidateGain.gain.setValueAtTime(dbToRatio(settings.gainDb + level), swapFrame / projectRateHz);
    this.store.setState({ candidate: { row, phase: 'waiting', alone, fitted, message: null } });
    this.pump();
  }

  /** What *even level* adds, in dB; at most 18 up, so that a whisper does not become noise. */
  private levelDb(row: LoopRow, fitted: Fitted): number {
    const loudnessLufs = row.source.loudnessLufs ?? this.pool?.loudnessOf(fitted.request) ?? null;
    return this.store.getState().settings.evenLevel && loudnessLufs !== null ? Math.min(18, evenLufs - loudnessLufs) : 0;
  }

  /** Ends what sounds as candidate at a frame, with a fade of a few milliseconds behind it; what had not begun never does. */
  private endCurrent(frame: number): void {
    for (const voice of this.current?.voices ?? []) {
      if (voice.startFrame >= frame) {
        try {
          voice.source.stop(0);
        } catch {
          /* gone */
        }
        voice.source.disconnect();
      } else if (voice.endFrame > frame) endVoice(voice, frame, cutFadeFrames, projectRateHz, 1);
    }
    this.current = null;
  }

  stopAudition(): void {
    this.wish++;
    this.endCurrent(this.now() + 128);
    this.store.setState({ candidate: null });
  }

  /** Click starts, the same again stops. */
  toggleAudition(row: LoopRow): void {
    const { candidate } = this.store.getState();
    if (candidate?.row.id === row.id && candidate.phase !== 'failed') this.stopAudition();
    else void this.audition(row);
  }

  /** Fits the neighbours of the candidate ahead; wishes of an earlier place in the list are dropped. */
  prefetch(rows: readonly LoopRow[]): void {
    if (!this.pool) return;
    const requests = rows.map((row) => this.fit(row.source).request);
    this.pool.drop(fitPriority.neighbour, new Set(requests.map(fitKey)));
    for (const request of requests) void this.pool.request(request, fitPriority.neighbour).catch(() => {});
  }

  setSettings(changes: Partial<AuditionSettings>): void {
    const before = this.store.getState().settings,
      settings = { ...before, ...changes };
    this.store.setState({ settings });
    const { candidate } = this.store.getState();
    if (!candidate || !this.candidateGain || !this.context) return;
    if (settings.fitTempo !== before.fitTempo || settings.fitKey !== before.fitKey) {
      if (!candidate.alone) void this.audition(candidate.row);
      return;
    }
    const level = this.levelDb(candidate.row, candidate.fitted);
    this.candidateGain.gain.setTargetAtTime(dbToRatio(settings.gainDb + level), this.context.currentTime, 0.01);
  }

  get isOpen(): boolean {
    return this.context !== null;
  }
  get inRoom(): boolean {
    return this.hasProject;
  }
}

/** What makes a scheduled voice the same event as one of the new schedule. */
const eventName = (event: SoundEvent): string =>
  [event.id, event.trackId, event.bufferKey, event.startFrame, event.endFrame, event.offsetFrame, event.gainRatio].join('|');
