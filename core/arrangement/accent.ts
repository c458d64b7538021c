/** Sixteenths of a beat that is a quarter. */
const perBeat = 4;

/** A hit of a loop: when, in beats of its cycle, and how strong. */
export interface Hit {
  readonly beat: number;
  readonly strength: number;
}

/** How strong a cycle is on each of its sixteenths: the hits that lie nearest to each. */
export function sixteenthsOf(hits: readonly Hit[], beats: number): number[] {
  const count = Math.max(1, Math.round(beats * perBeat)),
    found = new Array<number>(count).fill(0);
  for (const { beat, strength } of hits) {
    const at = ((Math.round(beat * perBeat) % count) + count) % count;
    found[at] = Math.max(found[at], strength);
  }
  return found;
}

/**
 * By how many beats a cycle is to be turned so that its accents lie on the wanted beats of the bar: the turn by which these are the furthest above
 * the others, of equals the smallest.
 * @param strengths by sixteenth of the cycle
 * @param wantedBeats of a bar, from 0: 1 and 3 for *two and four*
 * @param startBeat where in the piece the clip begins, with its present `offsetBeats` into the cycle
 * @returns beats to be added to the offset
 */
export function turnOnto(
  strengths: readonly number[],
  wantedBeats: readonly number[],
  barBeats: number,
  startBeat: number,
  offsetBeats: number,
): number {
  const count = strengths.length,
    barSixteenths = Math.round(barBeats * perBeat),
    from = Math.round((startBeat - offsetBeats) * perBeat),
    wanted = new Set(wantedBeats.map((beat) => Math.round(beat * perBeat)));
  let best = 0,
    bestScore = -Infinity;
  // 0, 1, −1, 2, −2 …: of equal turns the smallest.
  for (let k = 0; k < count; k++) {
    const turn = k % 2 === 1 ? (k + 1) / 2 : -k / 2;
    let on = 0,
      off = 0,
      ons = 0;
    for (let place = 0; place < count; place++) {
      // What lies at `place` of the cycle is heard so many sixteenths earlier.
      const at = (((from + place - turn) % barSixteenths) + barSixteenths) % barSixteenths;
      if (wanted.has(at)) {
        on += strengths[place];
        ons++;
      } else off += strengths[place];
    }
    const score = ons > 0 ? on / ons - off / Math.max(1, count - ons) : -Infinity;
    if (score > bestScore + 1e-9) {
      best = turn;
      bestScore = score;
    }
  }
  return best / perBeat;
}
