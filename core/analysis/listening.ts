import { beatsToSeconds } from '../units/time';
import { lengthFrames, type PcmAudio } from '../formats/pcm';
import type { EmbeddedTags } from '../formats/tags/embedded';
import { keptOnce } from '../kept/kept';
import type { WholeSound } from './analysis';
import { colourOf } from './colour/colour';
import { evidenceStated } from './evidence/from-names';
import { fuse } from './evidence/fuse';
import { withQuarters } from './evidence/quarters';
import { settleReading } from './evidence/settle-reading';
import { evidence, type Evidence } from './facts';
import { nameInstrument } from './instrument/name-instrument';
import { strokeFeatures } from './instrument/stroke';
import { timbreVector } from './instrument/timbre';
import { sharedKeyFeatures } from './key/key-features';
import { judgeKind } from './kind/judge-kind';
import { kindFeatures } from './kind/kind-features';
import { labelsOfNames } from './labels';
import { classify } from './learned/network';
import { model } from './learned/models';
import { measureLevels } from './level/levels';
import { hear, type Heard } from './listen/hear';
import { hitRiseDb, onsetRises, pickOnsets } from './onsets/onsets';
import type { Part } from './parts';
import { measurePulse } from './tempo/candidates';
import { sharedRhythmFeatures } from './tempo/candidate-features';
import { readRhythm, temposOf, type Reading } from './tempo/read-rhythm';

/** What is listened to. */
export interface SoundFile {
  /** At the project's rate; of a long file the beginning. */
  readonly pcm: PcmAudio;
  /** The vendor's, with folders; empty for the sound alone. */
  readonly path: string;
  readonly tags: EmbeddedTags;
  /** What is known of all of a long file. */
  readonly whole: WholeSound | null;
}

/** What is known already, and is not to be heard again. */
export interface Given {
  /** What others say, persons, set and pack, and parts that were heard before. */
  readonly evidence: readonly Evidence[];
  /** Null when they are to be heard. */
  readonly readings: readonly Reading[] | null;
}

export type Listening = ReturnType<typeof listen>;

/** Everything that parts of an analysis share, each worked out when the first of them asks for it. Parts that are not wanted are taken from what is given. */
export function listen({ pcm, path, tags, whole }: SoundFile, wanted: ReadonlySet<Part>, given: Given) {
  const heard = hear(
      pcm,
      whole && { fileSeconds: whole.lengthSeconds, lastSoundSeconds: whole.lastSoundSeconds, endLevelDb: whole.endLevelDb },
    ),
    lengthSeconds = whole?.lengthSeconds ?? lengthFrames(pcm) / pcm.sampleRateHz,
    soundSeconds = Math.max(0.05, heard.span.lastSoundSeconds - heard.span.firstSoundSeconds),
    // Where all of it was heard, the channels need not be mixed once more.
    mixed = heard.mono.length === lengthFrames(pcm) ? [heard.mono] : pcm.channels;

  const levels = keptOnce(() => whole?.levels ?? measureLevels(pcm.channels, pcm.sampleRateHz)),
    rises = keptOnce(() => onsetRises(mixed, pcm.sampleRateHz)),
    onsetFrames = keptOnce(() => pickOnsets(rises(), hitRiseDb)),
    onsetSeconds = keptOnce(() => onsetFrames().map((frame) => frame / pcm.sampleRateHz)),
    colour = keptOnce(() => colourOf(heard)),
    timbre = keptOnce(() => timbreVector(heard)),
    named = keptOnce(() => nameInstrument(timbre(), strokeFeatures(heard))),
    stated = keptOnce(() => evidenceStated(tags, path));

  const rhythm = keptOnce(() => readRhythm(heard, temposStated([...stated(), ...given.evidence]), named().familyScores)),
    readings = () => given.readings ?? rhythm().readings,
    labels = keptOnce(() => labelsOfNames({ path, genreTag: tags.genre })),
    reconciled = keptOnce(() => withQuarters(stated(), readings())),
    heardTempo = keptOnce(() => {
      const tempos = temposOf(readings());
      return tempos.length ? [evidence('tempo', 'sound', tempos.slice(0, 10), rhythmReason(heard, readings()[0]))] : [];
    }),
    /** The reading that is shown: by it bars, chords and accents are told. */
    reading = keptOnce(() =>
      settleReading(
        readings(),
        [...(wanted.has('names') ? reconciled() : []), ...(wanted.has('rhythm') ? heardTempo() : []), ...given.evidence],
        lengthSeconds,
      ),
    );

  const heardKind = keptOnce(() => {
      const shared = given.readings ? sharedRhythmFeatures(heard, measurePulse(heard.onsets)) : rhythm().shared,
        mix = named().families.find(({ value }) => value === 'mix')?.probability ?? 0,
        hits = onsetFrames().length;
      return evidence(
        'kind',
        'sound',
        judgeKind([...timbre(), ...kindFeatures(shared)], hits, soundSeconds, mix),
        `${hits} ${hits === 1 ? 'hit' : 'hits'} in ${soundSeconds.toFixed(1)} s`,
      );
    }),
    isLoop = keptOnce(() => {
      const said = [...(wanted.has('names') ? reconciled() : []), ...(wanted.has('kind') ? [heardKind()] : []), ...given.evidence],
        kind = fuse('kind', said)?.value;
      return kind === 'loop' || kind === 'full-mix';
    }),
    /** The reading of what goes round; null for what doesn't. */
    turning = () => (isLoop() ? (reading() ?? null) : null),
    pitchedChance = keptOnce(() => classify(model('pitched'), timbre())[1]),
    shared = keptOnce(() => {
      const turn = turning(),
        last = heard.span.lastSoundSeconds,
        end = turn ? Math.min(last, turn.startSeconds + beatsToSeconds(turn.beats, turn.tempoBpm)) : last;
      return sharedKeyFeatures(heard.notes, turn?.startSeconds ?? 0, end);
    });

  return {
    pcm,
    heard,
    whole,
    lengthSeconds,
    soundSeconds,
    mixed,
    levels,
    rises,
    onsetFrames,
    onsetSeconds,
    colour,
    timbre,
    named,
    stated,
    labels,
    reconciled,
    rhythm,
    readings,
    heardTempo,
    heardKind,
    turning,
    pitchedChance,
    shared,
  };
}

/** Tempos that somebody states, to be ranked with those that are heard. */
const temposStated = (all: readonly Evidence[]): number[] =>
  all
    .filter((each): each is Evidence<'tempo'> => each.attribute === 'tempo')
    .flatMap((each) => each.candidates.filter(({ probability }, k) => k === 0 || probability > 0.1).map(({ value }) => value));

/** Why this reading, in words. */
function rhythmReason({ span }: Heard, best: Reading): string {
  const end = best.startSeconds + beatsToSeconds(best.beats, best.tempoBpm),
    gap = span.fileSeconds - end,
    bars = `${best.bars} ${best.bars === 1 ? 'bar' : 'bars'}`;
  if (Math.abs(gap) < 0.02) return `length fits ${bars} at ${best.tempoBpm.toFixed(2)}; onsets heard`;
  return `onsets repeat at ${best.tempoBpm.toFixed(1)}: ${bars}, then ${gap.toFixed(1)} s of tail`;
}
