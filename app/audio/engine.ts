import type { FitRequest, LoopSource } from '~core/arrangement/fit-request';
import { harmonyName, settingAt } from '~core/arrangement/harmony/harmony';
import { scheduleProject, type Schedule } from '~core/arrangement/schedule';
import { emptyProject, projectEndBeat, type Project } from '~core/arrangement/tree';
import { dbToRatio } from '~core/units/level';
import { beatToFrame, beatsPerBar, projectRateHz } from '~core/units/time';
import type { WholeLoop } from '~contracts/whole-loop';
import { Audition, type Stage } from './audition';
import { openDevice, type Device } from './device';
import { fitPriority } from './fit-pool';
import { cutLeadFrames, leadFrames, lookAheadFrames } from './pace';
import { createEngineStore, type Free, type TransportSettings } from './store';
import { pausedWords, resumeOnWake } from './resume-on-wake';
import { PeakHold, type HeldPeaks } from './peak-hold';
import { projectBeat, runningBeatAt, wholeRange, type BeatRange, type Transport } from './transport';

/**
 * The one engine. Its time is the frame counter of the audio thread, told by the meter worklet; that message also drives the
 * look-ahead, so that nothing depends on timers. It owns one AudioContext and lives as long as the page.
 */
export class AudioEngine {
  readonly store = createEngineStore();
  readonly audition = new Audition(this.stage());
  private opened: Device | null = null;
  private starting: Promise<void> | null = null;
  private project: Project = emptyProject('none', 120, null);
  private sources: ReadonlyMap<number, LoopSource> = new Map();
  private schedule: Schedule = { events: [], requests: new Map(), endFrame: 0 };
  private transport: Transport | null = null;
  private stoppedBeat = 0;
  private userRange: BeatRange | null = null;
  private plans = 0;
  private readonly peakHold = new PeakHold();
  private hasProject = false;

  private stage(): Stage {
    return {
      store: this.store,
      device: () => this.opened,
      transport: () => this.transport,
      project: () => this.project,
      setting: () => settingAt(this.project, this.positionBeat()),
      now: () => this.now(),
      open: () => this.open(),
      play: () => this.play(),
      applyTracks: () => this.applyTracks(),
      scheduleAhead: () => this.scheduleAhead(),
    };
  }

  /** Opens the audio device; must first be called in a click or key press. */
  async open(): Promise<void> {
    this.starting ??= this.start();
    await this.starting;
    if (this.context && this.context.state !== 'running') await this.context.resume();
  }

  private async start(): Promise<void> {
    this.opened = await openDevice(this.store, (message) => {
      this.peakHold.push(message);
      this.scheduleAhead();
    });
    const { graph, ahead } = this.opened;
    graph.context.onstatechange = () => this.follow(graph.context.state);
    resumeOnWake(graph.context, () => this.sounds);
    graph.candidate.gain.value = dbToRatio(this.store.getState().settings.gainDb);
    graph.applyPreview(this.store.getState().settings);
    this.applyTracks();
    ahead.project(this.schedule);
  }

  /** The browser may take the device away (another application, a changed device, a sleeping tab): go on as soon as it can be had. */
  private follow(state: AudioContextState): void {
    if (state === 'running') {
      if (this.store.getState().trouble === pausedWords) this.store.setState({ trouble: null });
    } else if (this.sounds) {
      this.store.setState({ trouble: pausedWords });
      void this.context?.resume().catch(() => {});
    }
  }

  private get sounds(): boolean {
    return this.transport !== null || this.store.getState().candidate !== null;
  }
  get context(): AudioContext | null {
    return this.opened?.graph.context ?? null;
  }
  get master(): GainNode | null {
    return this.opened?.graph.master ?? null;
  }
  private now(): number {
    return Math.round((this.context?.currentTime ?? 0) * projectRateHz);
  }

  /** The project in the room and the loops it uses; null for none. Playing goes on, at the same place. */
  setProject(project: Project | null, sources: ReadonlyMap<number, LoopSource>): void {
    const next = project ?? emptyProject('none', this.store.getState().free.tempoBpm, null);
    // A drone that was set without a project could not be ended from where its switch no longer is.
    if (project !== null && !this.hasProject && this.store.getState().free.droneNote !== null) this.setFree({ droneNote: null });
    this.hasProject = project !== null;
    const tempoChanged = next.tempoBpm !== this.project.tempoBpm || next.meter !== this.project.meter,
      keyChanged = harmonyName(next) !== harmonyName(this.project);
    this.sources = sources;
    const schedule = scheduleProject(next, sources),
      plan = ++this.plans;
    const adopt = () => {
      if (plan === this.plans) this.adopt(next, schedule, tempoChanged || keyChanged);
    };
    this.opened?.ahead.project(schedule);
    // At a new tempo or key every buffer is new: the old ones go on until those that sound next are ready.
    const pool = this.opened?.pool;
    if (!this.transport || !pool || (!tempoChanged && !keyChanged)) return adopt();
    const { candidate } = this.store.getState(),
      requests = [...schedule.requests.values()];
    if (candidate && !candidate.alone) requests.push(this.audition.fit(candidate.row.source, candidate.overrides, next).request);
    void Promise.allSettled(requests.map((request) => pool.request(request, fitPriority.project))).then(adopt);
  }

  private adopt(project: Project, schedule: Schedule, refitCandidate: boolean): void {
    const at = this.now() + leadFrames,
      beat = this.transport ? runningBeatAt(this.transport, at) : null;
    this.project = project;
    this.schedule = schedule;
    const range = this.rangeOf(project);
    this.store.setState({ range });
    this.applyTracks();
    if (this.transport && beat !== null) {
      const before = this.transport.range,
        sameTempo = this.transport.tempoBpm === project.tempoBpm && this.transport.barBeats === beatsPerBar(project.meter),
        keepGrid = sameTempo && before?.startBeat === range?.startBeat && before?.endBeat === range?.endBeat;
      if (keepGrid) this.opened?.project.keepOnly(schedule, at);
      else {
        // Project events are numbered by pass; a new grid numbers them anew.
        this.beginAt(at, projectBeat(this.transport, beat), range);
        this.audition.rejoin(at);
      }
      // At another key alone the grid stays: it comes in on the next line.
      const { candidate } = this.store.getState();
      if (keepGrid && refitCandidate && candidate && !candidate.alone) void this.audition.hear(candidate);
    }
    this.audition.requestShortlist();
    this.scheduleAhead();
  }

  /** A new grid from a frame and a beat on; what was planned on the old one fades out. */
  private beginAt(frame: number, beat: number, range: BeatRange | null): void {
    this.opened?.project.cut(frame);
    this.opened?.metronome.reset(this.now());
    this.transport = {
      originFrame: frame,
      originBeat: beat,
      tempoBpm: this.project.tempoBpm,
      barBeats: beatsPerBar(this.project.meter),
      range,
      sampleRateHz: projectRateHz,
    };
  }

  private rangeOf = (project: Project) => this.userRange ?? wholeRange(projectEndBeat(project), beatsPerBar(project.meter));

  /** The range that somebody chose; null while the whole project goes round. */
  get chosenRange(): BeatRange | null {
    return this.userRange;
  }

  /** The range that repeats; null for the whole project. */
  setRange(range: BeatRange | null): void {
    this.userRange = range && range.endBeat > range.startBeat ? range : null;
    this.adopt(this.project, this.schedule, false);
  }

  /** Lets levels be heard that are still being looked for; the next edit, kept or not, puts right what is heard. */
  hearLevels(tracks: Project['tracks'], masterGainDb: number): void {
    this.applyTracks(tracks, masterGainDb);
  }

  private applyTracks(tracks: Project['tracks'] = this.project.tracks, masterGainDb = this.project.masterGainDb): void {
    const graph = this.opened?.graph;
    if (!graph) return;
    const { settings, candidate } = this.store.getState(),
      { heardWith } = settings,
      judged = candidate !== null && this.transport !== null;
    graph.applyTracks(tracks, masterGainDb, judged && typeof heardWith === 'object' ? heardWith.withoutTrackId : null);
    graph.applyProjectHeard(!(judged && heardWith === 'alone'));
  }

  /** Plays from where it was stopped, counted in if wanted; a lone candidate joins in. @returns the frame of its first beat; null if it plays already */
  async play(): Promise<number | null> {
    await this.open();
    if (this.transport || !this.context) return null;
    const range = this.rangeOf(this.project),
      startBeat = range && this.stoppedBeat >= range.endBeat ? range.startBeat : this.stoppedBeat,
      countInBeats = this.store.getState().transportSettings.countInBars * beatsPerBar(this.project.meter),
      at = this.now() + leadFrames + beatToFrame(countInBeats, this.project.tempoBpm, projectRateHz);
    this.opened?.once.end();
    this.beginAt(at, startBeat, range);
    this.store.setState({ playing: true, range });
    this.applyTracks();
    const { candidate } = this.store.getState();
    if (candidate?.alone) void this.audition.hear(candidate);
    this.scheduleAhead();
    return at;
  }

  stop(): void {
    if (!this.transport) return;
    const at = this.now() + cutLeadFrames;
    this.stoppedBeat = Math.max(0, projectBeat(this.transport, runningBeatAt(this.transport, at)));
    this.opened?.project.cut(at);
    this.opened?.metronome.reset(this.now());
    this.transport = null;
    this.store.setState({ playing: false, handsFree: null });
    this.audition.stop();
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
    this.beginAt(at, this.stoppedBeat, this.transport.range);
    this.audition.rejoin(at);
    this.scheduleAhead();
  }

  /** Beat under the playhead, for drawing. */
  positionBeat(): number {
    if (!this.transport || !this.context) return this.stoppedBeat;
    return Math.max(0, projectBeat(this.transport, runningBeatAt(this.transport, this.context.currentTime * projectRateHz)));
  }

  /** Levels since the last call. */
  takePeaks(): HeldPeaks {
    return this.peakHold.take();
  }

  /** Spectra of project and candidate, see `AudioGraph`. @returns false before the device is open */
  readSpectra(project: Float32Array<ArrayBuffer>, candidate: Float32Array<ArrayBuffer>): boolean {
    this.opened?.graph.readSpectra(project, candidate);
    return this.opened !== null;
  }

  /** What is in the fit cache, and how the device is doing. */
  figures() {
    const { context } = this;
    return (
      this.opened && {
        ...this.opened.pool.figures(),
        state: context?.state ?? 'closed',
        baseLatencySeconds: context?.baseLatency ?? 0,
        outputLatencySeconds: context?.outputLatency ?? 0,
        sampleRateHz: context?.sampleRate ?? 0,
      }
    );
  }

  private scheduleAhead(): void {
    const { opened, transport } = this;
    if (!opened) return;
    const now = this.now(),
      horizon = now + lookAheadFrames,
      { transportSettings } = this.store.getState();
    if (transport) {
      opened.project.scheduleAhead(this.schedule, transport, now, horizon);
      const countIn = transportSettings.countInBars * transport.barBeats;
      if (transportSettings.metronome || countIn > 0)
        opened.metronome.scheduleAhead(
          transport,
          now,
          horizon,
          transport.originBeat - countIn,
          transportSettings.metronome ? Infinity : transport.originBeat,
        );
    }
    this.audition.scheduleAhead(now, horizon);
  }

  setTransport(changes: Partial<TransportSettings>): void {
    this.store.setState({ transportSettings: { ...this.store.getState().transportSettings, ...changes } });
    this.opened?.metronome.reset(this.now());
    this.scheduleAhead();
  }

  /** Tempo and drone without a project. */
  setFree(changes: Partial<Free>): void {
    const free = { ...this.store.getState().free, ...changes };
    this.store.setState({ free });
    if (changes.droneNote !== undefined || changes.droneThird !== undefined)
      void this.open().then(() => this.opened?.ear.drone(free.droneNote, free.droneThird));
    if (changes.tempoBpm !== undefined && !this.hasProject) this.setProject(null, new Map());
  }

  /** Reference notes for an ear: sounds them together for a moment. */
  async soundNotes(notes: readonly number[], seconds = 1.2): Promise<void> {
    await this.open();
    this.opened?.ear.strike(notes, seconds);
  }

  /** What one request makes, at once and once: a note that is being written. */
  async hearOnce(request: FitRequest): Promise<void> {
    await this.open();
    const wasPlaying = this.transport !== null;
    // Who has begun to play meanwhile hears the piece.
    await this.opened?.once.hear(request, () => wasPlaying || !this.transport);
  }

  /** Notes one after the other: a scale. */
  async soundLine(notes: readonly number[]): Promise<void> {
    await this.open();
    this.opened?.ear.line(notes);
  }

  /** A loop as recorded on the left, clicks of a tempo on the right, together from its bar 1; null ends it. */
  async clickAgainst(row: WholeLoop | null, tempoBpm: number): Promise<void> {
    this.opened?.ear.stopClicks();
    if (!row) {
      if (this.store.getState().candidate?.alone) this.audition.stop();
      return;
    }
    if (this.transport) this.stop();
    await this.audition.start(row);
    if (this.store.getState().candidate?.row.id === row.id) this.opened?.ear.startClicks(tempoBpm);
  }

  endClicks(): void {
    this.opened?.ear.stopClicks();
  }

  get isOpen(): boolean {
    return this.opened !== null;
  }
  get inRoom(): boolean {
    return this.hasProject;
  }
}
