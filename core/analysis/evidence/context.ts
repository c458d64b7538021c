import { sameKey, type Key } from '../../theory/key';
import { isKey, type KeyValue } from '../attributes/key';
import { evidence, type Candidate, type Evidence } from '../facts';
import { fuse, fuseAll } from './fuse';

/** A loop among the others of its pack, with the evidence it has by itself. */
export interface LoopInPack {
  readonly id: number;
  /** Loops of one set share it; null stands alone. */
  readonly set: string | null;
  readonly evidence: readonly Evidence[];
}

/** What a vendor must say wrongly, and in how many loops at the least, before all of the pack's names are read otherwise. */
const halving = { leastLoops: 4, leastShare: 0.7 } as const;
const isContext = ({ source }: Evidence): boolean => source === 'set' || source === 'pack';

/**
 * What the others say of each loop: loops of a set share tempo and key; and a vendor who writes half (or double) the tempo does so
 * throughout. Evidence of this kind that is there already is left out of account, so that nothing feeds itself. @returns evidence by id
 */
export function contextEvidence(loops: readonly LoopInPack[]): Map<number, Evidence[]> {
  const own = loops.map((loop) => ({ ...loop, evidence: loop.evidence.filter((each) => !isContext(each)) })),
    found = new Map<number, Evidence[]>(own.map(({ id }) => [id, []]));
  const ratio = vendorRatio(own);
  for (const loop of own) {
    const mine = found.get(loop.id) as Evidence[],
      named = namedTempo(loop.evidence);
    if (ratio !== null && named !== null)
      mine.push(
        evidence(
          'tempo',
          'pack',
          [{ value: named * ratio, probability: 0.9 }],
          `names of this pack say ${ratio === 2 ? 'half' : 'double'} the tempo throughout`,
        ),
      );
    const others = loop.set === null ? [] : own.filter((other) => other.id !== loop.id && other.set === loop.set);
    const tempo = shared(
      others.map((other) => fuseAll('tempo', other.evidence)),
      sameTempo,
    );
    if (tempo) mine.push(evidence('tempo', 'set', tempo, `others of its set are at ${Number(tempo[0].value).toFixed(1)}`));
    const keys = shared(
      others.map((other) => fuseAll('key', other.evidence).filter(({ value }) => isKey(value))),
      (a: KeyValue, b: KeyValue) => sameKey(a as Key, b as Key),
    );
    const pitched = (fuse('key', loop.evidence)?.value ?? 'unpitched') !== 'unpitched';
    if (keys && pitched) mine.push(evidence('key', 'set', keys, 'the key of others of its set'));
  }
  return found;
}

const sameTempo = (a: number, b: number): boolean => Math.abs(a / b - 1) < 0.004;

/** Mean of several distributions, the best few, scaled to 0.85 in all: sets are mostly, not always, of one piece. */
function shared<V>(distributions: readonly (readonly Candidate<V>[])[], same: (a: V, b: V) => boolean): Candidate<V>[] | null {
  const speaking = distributions.filter((each) => each.length > 0);
  if (!speaking.length) return null;
  const sums: { value: V; probability: number }[] = [];
  for (const distribution of speaking)
    for (const { value, probability } of distribution) {
      const there = sums.find((each) => same(each.value, value));
      if (there) there.probability += probability / speaking.length;
      else sums.push({ value, probability: probability / speaking.length });
    }
  const kept = sums.sort((a, b) => b.probability - a.probability).slice(0, 5),
    total = kept.reduce((sum, each) => sum + each.probability, 0);
  return total > 0 && kept[0].probability > 0.3
    ? kept.map(({ value, probability }) => ({ value, probability: (0.85 * probability) / total }))
    : null;
}

function namedTempo(all: readonly Evidence[]): number | null {
  const named = all.find((each) => each.attribute === 'tempo' && (each.source === 'file-name' || each.source === 'folder'));
  return named ? Number(named.candidates[0].value) : null;
}

/** 2 when the pack's names say half of what is heard in nearly all of its loops, ½ when double; null when names are as they should be. */
function vendorRatio(loops: readonly LoopInPack[]): 2 | 0.5 | null {
  let judged = 0,
    half = 0,
    double = 0;
  for (const loop of loops) {
    const named = namedTempo(loop.evidence);
    if (named === null) continue;
    const heard = fuseAll(
      'tempo',
      loop.evidence.filter((each) => each.source === 'sound' || each.source === 'notes'),
    );
    const at = (tempo: number) => heard.find(({ value }) => Math.abs(value / tempo - 1) < 0.012)?.probability ?? 0;
    const [plain, twice, once] = [at(named), at(named * 2), at(named / 2)];
    if (Math.max(plain, twice, once) < 0.3) continue;
    judged++;
    if (twice > 1.5 * plain && twice >= once) half++;
    else if (once > 1.5 * plain) double++;
  }
  if (half >= halving.leastLoops && half >= halving.leastShare * judged) return 2;
  return double >= halving.leastLoops && double >= halving.leastShare * judged ? 0.5 : null;
}
