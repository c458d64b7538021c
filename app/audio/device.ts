import { projectRateHz } from '~core/units/time';
import type { AuditionDevice } from './audition';
import { CandidatePlayer } from './candidate-player';
import { EarCheck } from './ear-check';
import { FitAhead } from './fit-ahead';
import { FitPool } from './fit-pool';
import { AudioGraph } from './graph';
import { HeardOnce } from './heard-once';
import { Metronome } from './metronome';
import { ProjectPlayer } from './project-player';
import type { EngineStore } from './store';

/** What opens with the audio device: the graph, and all that plays into it. */
export interface Device extends AuditionDevice {
  readonly project: ProjectPlayer;
  readonly metronome: Metronome;
  readonly once: HeardOnce;
}

/** @param onMessage what the meter of the audio thread tells, which is also its clock */
export async function openDevice(store: EngineStore, onMessage: Parameters<typeof AudioGraph.open>[1]): Promise<Device> {
  const graph = await AudioGraph.open(projectRateHz, onMessage),
    pool = new FitPool(projectRateHz),
    candidate = new CandidatePlayer(graph, pool);
  return {
    graph,
    pool,
    project: new ProjectPlayer(graph, pool),
    candidate,
    metronome: new Metronome(graph.context, graph.click),
    once: new HeardOnce(graph, pool),
    ear: new EarCheck(graph, candidate),
    ahead: new FitAhead(pool, store),
  };
}
