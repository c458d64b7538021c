import { landingFrames, type Fitted, type LoopSource } from '~core/arrangement/fit-request';
import { fitHeard, type Heard } from '~core/arrangement/place';
import type { Setting } from '~core/arrangement/plan';
import { leastClipGainDb, mostClipGainDb, type Project } from '~core/arrangement/tree';
import { noOverrides, type ClipOverrides } from '~core/arrangement/fit-settings';
import { dbToRatio } from '~core/units/level';
import { projectRateHz } from '~core/units/time';
import type { SoundingLoop, WholeLoop } from '~contracts/whole-loop';
import type { CandidatePlayer } from './candidate-player';
import type { EarCheck } from './ear-check';
import type { FitAhead } from './fit-ahead';
import { fitPriority, type FitPool } from './fit-pool';
import type { AudioGraph } from './graph';
import { HandsFree } from './hands-free';
import { cutLeadFrames, leadFrames, nowLeadFrames } from './pace';
import { digitOf } from './shortlist';
import { ShortlistController } from './shortlist-controller';
import type { AuditionSettings, Candidate, EngineStore } from './store';
import { beatFrames, frameOfRunningBeat, nextStart, runningBeatAt, type Transport } from './transport';
import type { CandidateRequest } from './candidate-request';

/** Every candidate is brought to this loudness when *even level* is on. */
const evenLufs = -18,
  /** … but is raised by no more than this, so that a whisper does not become noise. */
  mostRaisedDb = 18;

/** What an audition needs of the device, once it is open. */
export interface AuditionDevice {
  readonly graph: AudioGraph;
  readonly pool: FitPool;
  readonly candidate: CandidatePlayer;
  readonly ear: EarCheck;
  readonly ahead: FitAhead;
}

/** The engine as an audition sees it: what plays, and when it is. */
export interface Stage {
  readonly store: EngineStore;
  /** null until the device is open. */
  device(): AuditionDevice | null;
  /** null while nothing plays. */
  transport(): Transport | null;
  project(): Project;
  /** Tempo and key where the piece is now. */
  setting(): Setting;
  now(): number;
  open(): Promise<void>;
  play(): Promise<unknown>;
  /** Levels of the tracks follow what the candidate is judged with. */
  applyTracks(): void;
  scheduleAhead(): void;
}

/** The candidate: what is heard against the project, how it comes in, goes, and takes over from the one before. */
export class Audition {
  readonly shortlist: ShortlistController;
  readonly handsFree: HandsFree;
  private requests = 0;

  constructor(private readonly stage: Stage) {
    const { store } = stage;
    this.handsFree = new HandsFree(store, () => stage.play());
    this.shortlist = new ShortlistController(
      store,
      (request) => this.hear(request),
      () => {
        this.requestShortlist();
        const { candidate } = store.getState();
        if (candidate) this.applyLevel(candidate);
      },
    );
  }

  /** The candidate that sounds or waits, for tests. */
  get current(): { readonly originFrame: number } | null {
    const originFrame = this.stage.device()?.candidate.originFrame ?? null;
    return originFrame === null ? null : { originFrame };
  }

  /** 0–1 through the candidate's cycle, for drawing; null while it does not sound. */
  phase(): number | null {
    const device = this.stage.device(),
      context = device?.graph.context;
    return device && context ? device.candidate.phase(context.currentTime * projectRateHz) : null;
  }

  /** Plans what sounds up to the horizon, and says when what waited has come in. */
  scheduleAhead(now: number, horizon: number): void {
    const { store } = this.stage,
      device = this.stage.device(),
      transport = this.stage.transport(),
      { candidate } = store.getState();
    if (!device) return;
    device.candidate.scheduleAhead(now, horizon);
    const origin = device.candidate.originFrame;
    if (candidate?.phase === 'waiting' && origin !== null && now >= origin)
      store.setState({ candidate: { ...candidate, phase: 'sounding' } });
    if (transport) this.handsFree.scheduleAhead(transport, now);
  }

  /**
   * The candidate on a new grid that begins at a frame: fitted already, it goes on there at its place in the bar; else it is silent until
   * it is ready and the next line comes.
   */
  rejoin(at: number): void {
    const device = this.stage.device(),
      transport = this.stage.transport(),
      { candidate } = this.stage.store.getState();
    if (!candidate || candidate.alone || !device || !transport) return;
    const { row, overrides, offsetBeats } = candidate,
      fitted = this.fit(row.source, overrides);
    if (!device.pool.peek(fitted.request) || !Number.isFinite(fitted.cycleFrames) || candidate.phase === 'failed') {
      device.candidate.end(at);
      void this.hear(candidate);
      return;
    }
    const beat = beatFrames(transport),
      intoBar = transport.originBeat - Math.floor(transport.originBeat / transport.barBeats) * transport.barBeats;
    this.requests++;
    this.begin({ row, overrides, offsetBeats }, fitted, at, (intoBar + offsetBeats) * beat, null);
  }

  /** How a loop would be made to belong, with the switches as they are. */
  fit(source: LoopSource, overrides: Partial<ClipOverrides> = noOverrides, setting: Setting = this.stage.setting()): Fitted {
    const { settings } = this.stage.store.getState(),
      alone = !this.stage.transport();
    return fitHeard(source, setting, {
      followTempo: !alone && settings.fitTempo,
      followKey: !alone && settings.fitKey,
      overrides: { ...noOverrides, ...overrides },
    });
  }

  /** How a loop is heard with the switches as they are: what placing keeps. */
  heard(row: SoundingLoop, overrides: ClipOverrides = noOverrides): Heard {
    const { settings } = this.stage.store.getState(),
      heard = { followTempo: settings.fitTempo, followKey: settings.fitKey, overrides },
      level = this.levelDb(row, fitHeard(row.source, this.stage.setting(), heard)) + settings.gainDb;
    return { ...heard, gainDb: Math.max(leastClipGainDb, Math.min(mostClipGainDb, level)) };
  }

  /** Makes a loop the candidate, untreated. */
  start(row: WholeLoop): Promise<void> {
    return this.hear({ row, overrides: noOverrides, offsetBeats: 0 });
  }

  /**
   * Makes a loop the candidate. While the project plays it comes in on the next line it is allowed to, fitted, and takes over
   * from the one before at that line; until it is ready the old one goes on. While stopped it is heard alone, as recorded.
   */
  async hear({ row, overrides, offsetBeats }: CandidateRequest): Promise<void> {
    const request = ++this.requests;
    await this.stage.open();
    const device = this.stage.device();
    if (request !== this.requests || !device) return;
    const alone = !this.stage.transport(),
      base = { row, overrides, offsetBeats, alone };
    let fitted: Fitted;
    try {
      fitted = this.fit(row.source, overrides);
      this.stage.store.setState({ candidate: { ...base, fitted, phase: 'fitting', message: null }, trouble: null });
      this.stage.applyTracks();
      const asked = this.lineFrame(this.stage.now(), row, fitted),
        buffer = await device.pool.request(fitted.request, fitPriority.soundsNext);
      if (request !== this.requests || buffer.length === 0) return;
      // A line that went by while it was being fitted is owned up to.
      const missed = this.stage.transport() !== null && asked !== null && this.stage.now() + leadFrames > asked;
      this.startCandidate({ row, overrides, offsetBeats }, fitted, missed ? 'a line late: it was not ready' : null);
    } catch (error) {
      if (request !== this.requests) return;
      const message = error instanceof RangeError ? 'That is too far from its own speed or pitch.' : (error as Error).message;
      this.stage.store.setState({
        candidate: { ...base, fitted: this.fit(row.source), phase: 'failed', message },
      });
    }
  }

  /** The frame of the line on which a candidate could come in, asked for at a frame; null where nothing plays. */
  private lineFrame(frame: number, row: SoundingLoop, fitted: Fitted): number | null {
    const transport = this.stage.transport();
    if (!transport) return null;
    const { startOn } = this.stage.store.getState().settings,
      lead = startOn === 'now' ? nowLeadFrames : leadFrames,
      length = landingFrames(row.source, fitted) ?? 0;
    // Nothing comes in while it is being counted in.
    const fromBeat = Math.max(transport.originBeat, runningBeatAt(transport, frame + lead + length));
    return frameOfRunningBeat(transport, nextStart(transport, fromBeat, startOn)) - length;
  }

  private startCandidate(base: CandidateRequest, fitted: Fitted, message: string | null): void {
    const transport = this.stage.transport(),
      now = this.stage.now(),
      beat = transport ? beatFrames(transport) : projectRateHz / 2;
    this.begin(base, fitted, this.lineFrame(now, base.row, fitted) ?? now + nowLeadFrames, base.offsetBeats * beat, message);
  }

  /** Lets a fitted loop begin at a frame (not whole in general), `intoLoop` frames into itself. */
  private begin(base: CandidateRequest, fitted: Fitted, startExact: number, intoLoop: number, message: string | null): void {
    const device = this.stage.device(),
      transport = this.stage.transport();
    if (!device) return;
    const cycle = fitted.cycleFrames;
    device.candidate.start({
      id: `candidate-${this.requests}`,
      fitted,
      startExact,
      lengthFrames: (transport ? beatFrames(transport) : projectRateHz / 2) * 4096,
      offsetFrames: Number.isFinite(cycle) ? ((intoLoop % cycle) + cycle) % cycle : 0,
      levelRatio: dbToRatio(this.levelDb(base.row, fitted)),
    });
    this.handsFree.count(transport ? runningBeatAt(transport, startExact) : null);
    this.stage.store.setState({ candidate: { ...base, alone: !transport, fitted, phase: 'waiting', message } });
    this.stage.applyTracks();
    this.stage.scheduleAhead();
  }

  /** What *even level* adds, in dB. */
  private levelDb(row: SoundingLoop, fitted: Fitted): number {
    const loudnessLufs = row.source.loudnessLufs ?? this.stage.device()?.pool.loudnessOf(fitted.request) ?? null,
      { settings, shortlist } = this.stage.store.getState();
    // Blind, the louder one would give itself away.
    const even = settings.evenLevel || (shortlist.blind !== null && digitOf(shortlist, row.id) !== null);
    return even && loudnessLufs !== null ? Math.min(mostRaisedDb, evenLufs - loudnessLufs) : 0;
  }

  stop(): void {
    this.requests++;
    this.stage.device()?.candidate.end(this.stage.now() + cutLeadFrames);
    this.stage.device()?.ear.stopClicks();
    this.handsFree.count(null);
    this.stage.store.setState({ candidate: null });
    this.stage.applyTracks();
  }

  /** Click starts, the same again stops. */
  toggle(row: WholeLoop): void {
    const { candidate } = this.stage.store.getState();
    if (candidate?.row.id === row.id && candidate.phase !== 'failed') this.stop();
    else void this.start(row);
  }

  /** Does something more to the candidate; it comes in changed on the next line. */
  treat(changes: Partial<ClipOverrides> & { readonly offsetBeats?: number }): void {
    const { candidate } = this.stage.store.getState();
    if (!candidate) return;
    const { offsetBeats = candidate.offsetBeats, ...overrides } = changes;
    void this.hear({ row: candidate.row, overrides: { ...candidate.overrides, ...overrides }, offsetBeats });
  }

  /** Fits the neighbours of the candidate ahead; requests of an earlier place in the list are dropped. */
  prefetch(rows: readonly WholeLoop[]): void {
    this.stage.device()?.ahead.neighbours(rows.map((row) => this.fit(row.source).request));
  }

  /** Everything on the shortlist is kept fitted. */
  requestShortlist(): void {
    this.stage
      .device()
      ?.ahead.shortlist(this.stage.store.getState().shortlist.entries.map(({ row, overrides }) => this.fit(row.source, overrides).request));
  }

  setSettings(changes: Partial<AuditionSettings>): void {
    const before = this.stage.store.getState().settings,
      settings = { ...before, ...changes };
    this.stage.store.setState({ settings });
    this.stage.device()?.graph.applyPreview(settings);
    this.stage.applyTracks();
    const { candidate } = this.stage.store.getState();
    if (!candidate) {
      this.stage.device()?.graph.candidate.gain.setValueAtTime(dbToRatio(settings.gainDb), this.stage.now() / projectRateHz);
      return;
    }
    if (settings.fitTempo !== before.fitTempo || settings.fitKey !== before.fitKey) {
      if (!candidate.alone) void this.hear(candidate);
      return;
    }
    this.applyLevel(candidate);
  }

  private applyLevel(candidate: Candidate): void {
    const graph = this.stage.device()?.graph;
    graph?.candidate.gain.setTargetAtTime(dbToRatio(this.stage.store.getState().settings.gainDb), graph.context.currentTime, 0.01);
    this.stage.device()?.candidate.setLevel(dbToRatio(this.levelDb(candidate.row, candidate.fitted)));
  }
}
