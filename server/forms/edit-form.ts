import { randomUUID } from 'node:crypto';
import * as yup from 'yup';
import type { Edit } from '~core/arrangement/edit';
import type { Step } from '~core/arrangement/shared-project';
import { stretchModeRows } from '~core/stretch/stretch-modes';
import { isChordSymbol } from '~core/theory/chord-line';
import { churchModes } from '~core/theory/key';
import { mostPatternNotes } from '~core/arrangement/pattern/pattern';

/*
 * The shape of what a browser may send as edits. What a value may be is the tree's own business (`applyEdit`); here nothing passes that an
 * edit does not have: no foreign field, no id of another shape.
 */
const id = () =>
    yup
      .string()
      .matches(/^[\w-]{1,64}$/)
      .required(),
  number = () => yup.number().strict().required(),
  flag = () => yup.boolean().strict().required(),
  text = (most: number) => yup.string().strict().required().max(most);

/** An object with these fields and no others. */
const only = <S extends yup.ObjectShape>(fields: S) => yup.object(fields).noUnknown().strict();

/** The same with every field left out at will. */
const someOf = <S extends yup.ObjectShape>(fields: S) =>
  only(Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, (field as yup.Schema).optional()])) as S);

const key = only({
    tonic: yup.number().strict().integer().min(0).max(11).required(),
    mode: yup.string().oneOf(['major', 'minor']).required(),
    church: yup
      .string()
      .oneOf(churchModes.map(({ church }) => church))
      .optional(),
  })
    .nullable()
    .default(undefined),
  overrides = someOf({
    stretchMode: yup
      .string()
      .oneOf(stretchModeRows.map(({ mode }) => mode))
      .nullable(),
    speedRatio: number(),
    formantSemitones: number(),
    reverse: flag(),
    firstBars: yup.number().strict().nullable(),
    gridStrength: yup.number().strict().nullable(),
    instrument: yup.string().strict().max(64).nullable(),
  }).default(undefined),
  contents = [
    only({
      kind: yup.string().oneOf(['loop']).required(),
      loopId: yup.number().strict().integer().positive().max(2147483647).required(),
    }),
    only({ kind: yup.string().oneOf(['notes']).required(), patternId: id() }),
  ],
  clipFields = {
    startBeat: number(),
    lengthBeats: number(),
    offsetBeats: number(),
    gainDb: number(),
    shiftSemitones: number(),
    followTempo: flag(),
    followKey: flag(),
    fadeInBeats: number(),
    fadeOutBeats: number(),
    muted: flag(),
    landsAfterBeats: yup.number().strict().nullable().default(undefined).defined(),
    overrides: overrides.required(),
    chordWay: yup.string().oneOf(['roots', 'notes']).nullable().default(undefined).defined(),
    shiftMarks: yup
      .array(only({ atBeat: number(), semitones: number() }))
      .max(2000)
      .nullable()
      .default(undefined)
      .defined(),
    content: yup
      .mixed()
      .required()
      .test(
        'content',
        'A clip plays a loop or a pattern.',
        (value) => value === undefined || contents.some((each) => each.isValidSync(value, { strict: true })),
      ),
  },
  clip = only({
    kind: yup.string().oneOf(['clip']).required(),
    id: id(),
    ...clipFields,
  }),
  trackFields = { name: text(120), colour: number(), gainDb: number(), pan: number(), muted: flag(), soloed: flag(), setAside: flag() },
  track = only({ kind: yup.string().oneOf(['track']).required(), id: id(), ...trackFields, clips: yup.array(clip).required().max(2000) }),
  sectionFields = { name: text(120), startBeat: number(), lengthBeats: number(), key: key.optional() },
  section = only({ kind: yup.string().oneOf(['section']).required(), id: id(), ...sectionFields }),
  chord = only({
    startBeat: number().min(0),
    symbol: text(20).test(
      'chord',
      ({ value }) => `“${value}” is no chord.`,
      (value) => isChordSymbol(value ?? ''),
    ),
  });

const note = only({ id: id(), startBeat: number(), lengthBeats: number(), pitch: number(), velocity: number() }),
  patternFields = {
    name: text(120),
    lengthBeats: number(),
    isDrums: flag(),
    instrument: yup.string().strict().max(64).nullable().default(undefined).defined(),
    key: key.defined(),
    chords: yup.array(chord).required().max(4000),
    fromLoopId: yup.number().strict().integer().positive().max(2147483647).nullable().default(undefined).defined(),
  };

/** What one act may change: everything behind a bar of a large piece moves, say. */
const mostInBatch = 20_000;

const fieldsOf: { readonly [K in Edit['kind']]: yup.ObjectShape } = {
  'set-project': { changes: someOf({ name: text(120), tempoBpm: number(), key, meter: text(8), masterGainDb: number() }).required() },
  'add-track': { track: track.required(), index: number() },
  'remove-track': { trackId: id() },
  'set-track': { trackId: id(), changes: someOf(trackFields).required() },
  'add-clip': { trackId: id(), clip: clip.required() },
  'remove-clip': { clipId: id() },
  'set-clip': { clipId: id(), trackId: id(), changes: someOf(clipFields).required() },
  'add-section': { section: section.required() },
  'remove-section': { sectionId: id() },
  'set-section': { sectionId: id(), changes: someOf(sectionFields).required() },
  'set-chords': { chords: yup.array(chord).required().max(4000) },
  'add-pattern': {
    pattern: only({
      kind: yup.string().oneOf(['pattern']).required(),
      id: id(),
      ...patternFields,
      notes: yup.array(note).required().max(mostPatternNotes),
    }).required(),
  },
  'remove-pattern': { patternId: id() },
  'set-pattern': { patternId: id(), changes: someOf(patternFields).required() },
  'change-notes': {
    patternId: id(),
    gone: yup.array(id()).required().max(mostPatternNotes),
    put: yup.array(note).required().max(mostPatternNotes),
  },
  batch: {
    edits: yup
      .array(yup.lazy((value: unknown) => schemaOf(value, 'batch')))
      .required()
      .max(mostInBatch),
  },
};

/** Batches hold no batches. */
function schemaOf(value: unknown, within?: 'batch'): yup.Schema {
  const kind = (value as { kind?: unknown } | null)?.kind;
  return typeof kind === 'string' && Object.hasOwn(fieldsOf, kind) && kind !== within
    ? only({ kind: yup.string().required(), ...fieldsOf[kind as Edit['kind']] })
    : yup.mixed().test('kind', 'That is no edit that is known.', () => false);
}

const revision = () => yup.number().strict().integer().min(0).max(2147483647).required(),
  request = only({
    revision: revision(),
    edits: yup
      .array(yup.lazy((value: unknown) => schemaOf(value)))
      .required()
      .max(500),
  }),
  stepsRequest = only({
    revision: revision(),
    steps: yup
      .array(only({ stepId: id(), edit: yup.lazy((value: unknown) => schemaOf(value)) as unknown as yup.Schema, undoes: id().optional() }))
      .required()
      .max(500),
  });

export type ReadSteps =
  { readonly ok: true; readonly revision: number; readonly steps: readonly Step[] } | { readonly ok: false; readonly message: string };

/** Steps as they came over the line, checked; edits without names come as one step, all or nothing. A chord that is none is named; of anything else only a program can be guilty. */
export async function readSteps(body: unknown): Promise<ReadSteps> {
  try {
    if (typeof body === 'object' && body !== null && 'edits' in body) {
      const { revision: madeOn, edits } = await request.validate(body, { strict: true });
      return {
        ok: true,
        revision: madeOn,
        steps: [{ stepId: randomUUID(), edit: { kind: 'batch', edits: edits as unknown as readonly Edit[] } }],
      };
    }
    const { revision: madeOn, steps } = await stepsRequest.validate(body, { strict: true });
    return { ok: true, revision: madeOn, steps: steps as unknown as readonly Step[] };
  } catch (error) {
    if (!(error instanceof yup.ValidationError)) throw error;
    return { ok: false, message: error.type === 'chord' ? error.message : 'The change could not be read, and nothing was changed.' };
  }
}
