import { contextEvidence, type LoopInPack } from './context';
import { fuse } from './fuse';
import { evidence, type Evidence } from '../facts';

const heard = (...tempos: (readonly [number, number])[]): Evidence =>
  evidence(
    'tempo',
    'sound',
    tempos.map(([value, probability]) => ({ value, probability })),
    'heard',
  );
const named = (value: number): Evidence =>
  evidence(
    'tempo',
    'file-name',
    [
      { value, probability: 0.9 },
      { value: value * 2, probability: 0.03 },
    ],
    'name',
  );
const loop = (id: number, set: string | null, ...list: Evidence[]): LoopInPack => ({ id, set, evidence: list });
const chosen = (loops: readonly LoopInPack[], id: number) => {
  const found = loops.find((each) => each.id === id) as LoopInPack;
  return fuse('tempo', [...found.evidence, ...(contextEvidence(loops).get(id) ?? [])])?.value;
};

test('a doubtful loop of a set follows the others', () => {
  const loops = [
    loop(1, 'groove', heard([96, 0.95], [48, 0.05])),
    loop(2, 'groove', heard([96, 0.9], [192, 0.1])),
    loop(3, 'groove', heard([64, 0.5], [96, 0.45])),
    loop(4, null, heard([64, 0.5], [96, 0.45])),
  ];
  expect(chosen(loops, 3)).toBe(96);
  expect(chosen(loops, 4)).toBe(64);
});

test('a vendor who halves throughout is read at double; one wrong name changes nothing', () => {
  const halved = [70, 72, 75, 64, 80].map((tempo, k) => loop(k, null, named(tempo), heard([tempo * 2, 0.8], [tempo, 0.2])));
  for (const each of halved) expect(contextEvidence(halved).get(each.id)?.[0]).toMatchObject({ source: 'pack' });
  expect(chosen(halved, 0)).toBe(140);
  const honest = halved.map((each, k) => (k === 0 ? each : loop(k, null, named(100 + k), heard([100 + k, 0.8]))));
  expect([...contextEvidence(honest).values()].flat()).toEqual([]);
});

test('the key goes along a set, but drums stay without', () => {
  const key = (tonic: number, probability: number): Evidence =>
    evidence(
      'key',
      'sound',
      [
        { value: { tonic, mode: 'minor' }, probability },
        { value: 'unpitched', probability: 1 - probability },
      ],
      '',
    );
  const loops = [
    loop(1, 's', key(2, 0.9)),
    loop(2, 's', key(2, 0.8)),
    loop(
      3,
      's',
      evidence(
        'key',
        'sound',
        [
          { value: { tonic: 9, mode: 'minor' }, probability: 0.5 },
          { value: { tonic: 2, mode: 'minor' }, probability: 0.4 },
        ],
        '',
      ),
    ),
    loop(4, 's', key(2, 0.05)),
  ];
  const found = contextEvidence(loops);
  expect(fuse('key', [...loops[2].evidence, ...(found.get(3) ?? [])])?.value).toEqual({ tonic: 2, mode: 'minor' });
  expect(found.get(4)).toEqual([]);
});

test('context does not feed itself, and a pack of one has none', () => {
  const once = [loop(1, 'a', heard([96, 1])), loop(2, 'a', heard([96, 1]))],
    twice = once.map((each) => ({ ...each, evidence: [...each.evidence, ...(contextEvidence(once).get(each.id) ?? [])] }));
  expect(contextEvidence(twice)).toEqual(contextEvidence(once));
  expect([...contextEvidence([loop(1, 'a', heard([96, 1]))]).values()]).toEqual([[]]);
});
