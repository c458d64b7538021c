import * as yup from 'yup';
import { parseChordLine } from '~core/theory/chord-line';
import type { MakingsAsked } from '~contracts/making';
import { attributeRow } from '~core/analysis/attributes/registry';

/* What a page may send to have loops made. What a step may ask for is held in its own limits here, so that no thread works at what cannot be. */

const number = (least: number, most: number) => yup.number().strict().min(least).max(most).required(),
  flag = () => yup.boolean().strict().required(),
  orNull = <S extends yup.Schema>(schema: S) => schema.nullable().defined().default(undefined),
  count = (most = 2_147_483_647) => yup.number().strict().integer().min(0).max(most).required(),
  only = <S extends yup.ObjectShape>(fields: S) => yup.object(fields).noUnknown().strict().required(),
  list = <S extends yup.Schema>(of: S, most: number) => yup.array().of(of).strict().required().max(most),
  id = () =>
    yup
      .string()
      .strict()
      .matches(/^[\w-]{1,64}$/)
      .required();

/** A value of an attribute as the registry reads it. */
const valueOf = (attribute: 'instrument' | 'setRole', words: string) =>
  yup
    .string()
    .strict()
    .nullable()
    .defined()
    .test('known', words, (value) => value === null || attributeRow(attribute).fromText(value ?? '') !== null);

const words = (most: number) => list(yup.string().strict().trim().min(1).max(60).required(), most);

const sheet = only({
  name: yup.string().strict().trim().required('Say what it is called.').max(120, 'A name has up to 120 letters.'),
  kind: yup.string().oneOf(['loop', 'one-shot', 'phrase']).required(),
  setName: yup.string().strict().trim().max(120).defined(),
  setRole: valueOf('setRole', 'There is no such part of a set.'),
  instrument: valueOf('instrument', 'There is no such instrument.'),
  genre: words(6),
  character: words(8),
  tags: words(20),
  landingSeconds: orNull(yup.number().strict().min(0).max(3600)),
  chords: yup
    .string()
    .strict()
    .max(2000)
    .defined()
    .test(
      'chords',
      'What stands for its chords holds a word that is none. Write them like Dm7 . G7, one a bar.',
      (text) => parseChordLine(text, 4).ok,
    ),
});

const keySchema = orNull(
    yup
      .object({ tonic: count(11), mode: yup.string().oneOf(['major', 'minor']).required() })
      .noUnknown()
      .strict(),
  ),
  frame = () => number(0, 2 ** 31),
  fields = {
    part: { fromFrame: frame(), toFrame: frame(), beats: orNull(yup.number().strict().min(0.25).max(4096)), wrapsTail: flag() },
    clean: {
      trimBelowDbfs: orNull(yup.number().strict().min(-120).max(0)),
      removesDc: flag(),
      lowCutHz: orNull(yup.number().strict().min(5).max(20_000)),
      highCutHz: orNull(yup.number().strict().min(20).max(22_000)),
      gateDbfs: orNull(yup.number().strict().min(-120).max(0)),
      gateReleaseMs: number(1, 5000),
      width: number(0, 2),
      fadeInMs: number(0, 20_000),
      fadeOutMs: number(0, 20_000),
      normalise: orNull(
        yup
          .object({ by: yup.string().oneOf(['peak', 'loudness']).required(), toDb: number(-60, 0) })
          .noUnknown()
          .strict(),
      ),
    },
    grid: {
      strength: number(0, 1),
      stepsPerBeat: yup.number().strict().oneOf([1, 2, 3, 4, 6, 8]).required(),
      swing: number(0.5, 0.75),
      byHand: list(only({ fromFrame: frame(), toFrame: frame() }), 2000),
      keeps: yup.string().oneOf(['hits', 'tones']).required(),
    },
    retune: { semitones: number(-24, 24), keepsFormants: flag(), formantSemitones: number(-12, 12) },
    line: {
      strength: number(0, 1),
      straightness: number(0, 1),
      key: keySchema,
      moves: yup
        .mixed<Record<string, number>>()
        .required()
        .test(
          'moves',
          'Notes are moved by up to two octaves.',
          (value) =>
            typeof value === 'object' &&
            !Array.isArray(value) &&
            Object.entries(value).length <= 4000 &&
            Object.entries(value).every(([index, by]) => /^\d{1,5}$/.test(index) && typeof by === 'number' && Math.abs(by) <= 24),
        ),
      formantSemitones: number(-12, 12),
    },
    slices: {
      stepsPerBeat: yup.number().strict().oneOf([1, 2, 3, 4, 6, 8]).required(),
      hits: list(only({ step: count(65_536), slice: count(4096), velocity: number(0, 1), reverse: flag() }), 8192),
    },
    layers: {
      layers: list(
        only({
          semitones: number(-24, 24),
          gainDb: number(-60, 12),
          pan: number(-1, 1),
          delayBeats: number(0, 64),
          lowCutHz: orNull(yup.number().strict().min(5).max(20_000)),
        }),
        12,
      ),
    },
  },
  step = yup.lazy((value: unknown) => {
    const kind = (value as { kind?: unknown } | null)?.kind;
    return typeof kind === 'string' && Object.hasOwn(fields, kind)
      ? only({ kind: yup.string().required(), ...(fields[kind as keyof typeof fields] as yup.ObjectShape) })
      : yup.mixed().test('kind', 'That is no step that is known.', () => false);
  }),
  setting = only({
    tempoBpm: orNull(yup.number().strict().min(10).max(1000)),
    beats: orNull(yup.number().strict().min(0.01).max(100_000)),
    barBeats: number(0.5, 64),
    key: keySchema,
    startFrame: frame(),
    onsetFrames: list(frame(), 20_000),
    isCycle: flag(),
  }),
  how = yup.lazy((value: unknown) =>
    (value as { kind?: unknown } | null)?.kind === 'steps'
      ? only({
          kind: yup.string().required(),
          as: yup.string().oneOf(['sound', 'notes']).required(),
          loopId: count().min(1),
          steps: yup
            .array()
            .of(step as unknown as yup.Schema)
            .strict()
            .required()
            .max(40),
          setting,
        })
      : only({
          kind: yup.string().oneOf(['part']).required(),
          projectId: count().min(1),
          as: yup.string().oneOf(['sound', 'notes']).required(),
          asked: only({
            trackIds: list(id(), 500).min(1),
            clipIds: orNull(yup.array().of(id()).strict().max(10_000)),
            fromBeat: number(0, 100_000),
            toBeat: number(0, 100_000).moreThan(yup.ref('fromBeat'), 'It has no length.'),
            tail: yup.string().oneOf(['wrap', 'keep', 'cut']).required(),
          }),
        }),
  ),
  makings = only({
    pack: only({
      packId: orNull(yup.number().strict().integer().min(1).max(2_147_483_647)),
      name: yup
        .string()
        .strict()
        .trim()
        .max(120)
        .defined()
        .test(
          'named',
          'Say into which pack it goes.',
          (value, { parent }) => (parent as { packId: number | null }).packId !== null || value !== '',
        ),
      vendor: yup.string().strict().trim().max(120).defined(),
      licence: yup.string().strict().trim().max(300).defined(),
    }),
    makings: yup
      .array()
      .of(only({ sheet, how: how as unknown as yup.Schema }))
      .strict()
      .required()
      .min(1, 'There is nothing to make.')
      .max(64, 'Up to 64 loops are made at once.')
      .test('names', 'Two of them have the same name: call one otherwise.', (all) => {
        const names = (all ?? []).map((each) => (each.sheet as { name?: string } | undefined)?.name?.toLowerCase());
        return new Set(names).size === names.length;
      }),
  });

export type ReadMakings = { readonly ok: true; readonly asked: MakingsAsked } | { readonly ok: false; readonly message: string };

/** Words that are for a person begin with a capital and end with a stop; of the rest only a program can be guilty. */
const isForPeople = (message: string): boolean => /^[A-Z][^`]*[.!]$/.test(message) && !message.startsWith('This');

/** What is to be made, as it came over the line, checked. */
export async function readMakings(body: unknown): Promise<ReadMakings> {
  try {
    return { ok: true, asked: (await makings.validate(body, { strict: true })) as unknown as MakingsAsked };
  } catch (error) {
    if (!(error instanceof yup.ValidationError)) throw error;
    return { ok: false, message: isForPeople(error.message) ? error.message : 'It could not be read, and nothing was made.' };
  }
}
