import * as yup from 'yup';
import { fitParts, type FitPart } from '~core/search/fit/weights';
import { duplicateWays, type DuplicateWay } from '~core/imports/options';
import type { Overs } from '~core/mix/overs';
import { stretchModeRows } from '~core/stretch/stretch-modes';
import { instruments } from '~core/theory/instruments';
import { meters } from '~core/units/time';

/** One schema a form, checked by the actions; browsers only hint. Messages are written for people. */
export const signInForm = yup.object({
  name: yup.string().trim().required('Please give your name.').max(60),
  password: yup.string().required('Please give your password.').max(200),
});

const newPassword = yup
  .string()
  .min(10, 'At least 10 letters: a short sentence is easy to keep in mind.')
  .max(200, 'Up to 200 letters, please.');

export const personForm = yup.object({
  name: yup.string().trim().required('Please give a name.').max(60, 'Up to 60 letters, please.'),
  password: newPassword.required('Please choose a password.'),
});

/** One thing at a time. */
export const personChangeForm = yup.object({
  role: yup.string().oneOf(['member', 'keeper'] as const, 'There is no such role.'),
  password: newPassword,
  isHere: yup.boolean(),
});

export const passwordForm = yup.object({
  current: yup.string().required('Please give the password you have.').max(200),
  next: newPassword.required('Please choose a new password.'),
});

export const projectForm = yup.object({
  name: yup.string().trim().required('Please name the project.').max(120, 'Up to 120 letters, please.'),
  tempo: yup
    .number()
    .typeError('The tempo must be a number.')
    .required('Please give a tempo.')
    .min(30, 'The tempo must be 30 to 300.')
    .max(300, 'The tempo must be 30 to 300.'),
  key: yup
    .string()
    .matches(/^(none|(\d|1[01])[mM])$/)
    .default('none'),
  meter: yup.string().oneOf(meters).default('4/4'),
});

export const batchForm = yup.object({
  packName: yup.string().trim().required('Please name the pack.').max(200),
  vendor: yup.string().trim().max(200).default(''),
  licence: yup.string().trim().max(300).default(''),
  description: yup.string().trim().max(2000).default(''),
  /** Names parted by commas. */
  tags: yup.string().trim().max(1500).default(''),
  leaveOut: yup.string().trim().max(1500).default(''),
  duplicates: yup.string<DuplicateWay>().oneOf(duplicateWays).default('skip'),
});

/** What is left out stays as it is: two who say different things of a pack at once do not undo each other. */
export const packForm = yup.object({
  name: yup.string().trim().min(1, 'Please name the pack.').max(200, 'Up to 200 letters, please.'),
  vendor: yup.string().trim().max(200, 'Up to 200 letters, please.'),
  licence: yup.string().trim().max(300, 'Up to 300 letters, please.'),
  description: yup.string().trim().max(2000, 'Up to 2,000 letters, please.'),
  /** One of its pictures; 0: drawn from its sound. */
  coverId: yup.number().integer().min(0),
});

export const instrumentForm = yup.object({
  label: yup.string().trim().required('Name the instrument.').max(60, 'Up to 60 letters, please.'),
  soundsAs: yup
    .string()
    .required('Say what it sounds like.')
    .oneOf(
      instruments.map(({ id }) => id),
      'There is no such instrument.',
    ),
  /** Names parted by commas. */
  words: yup.string().trim().max(600, 'Up to 600 letters, please.').default(''),
});

export const hearingForm = yup.object({
  loopId: yup.number().integer().positive().max(2_147_483_647).required(),
  projectId: yup.number().integer().positive().max(2_147_483_647).nullable().default(null),
  overrides: yup.object().default({}),
  offsetBeats: yup.number().min(-4096).max(4096).default(0),
});

export const folderForm = batchForm.concat(
  yup.object({
    path: yup.string().required('Choose a folder.').max(2000),
    isWatched: yup.boolean().default(false),
  }),
);

const outsideId = yup
  .string()
  .required('Say which.')
  .matches(/^[\w-]{1,100}$/, 'That is no name of anything there.');
export const outsideForm = yup.object({ id: outsideId });
/** With `loopId`, several times, for some of its loops. */
export const takeForm = yup.object({ packId: outsideId });
/** With `all`: everything that a search finds. */
export const takeFoundForm = yup.object({ words: yup.string().max(200).default(''), category: yup.string().max(60).default('') });
export const exchangeKeyForm = yup.object({
  key: yup
    .string()
    .trim()
    .required('Please enter the key.')
    .max(300)
    .matches(/^[\x21-\x7e]+$/, 'A key has letters, digits and signs, and no spaces.'),
});

export const exportForm = yup.object({
  what: yup
    .string()
    .oneOf(['mixdown', 'stems'] as const)
    .default('mixdown'),
  bits: yup.number<16 | 24 | 32>().oneOf([16, 24, 32]).required(),
  rateHz: yup.number<44100 | 48000>().oneOf([44100, 48000]).required(),
  overs: yup.string<Overs>().oneOf(['lower', 'clip']).default('lower'),
});

export const fitDefaultsForm = yup.object({
  stretchMode: yup
    .string()
    .oneOf(stretchModeRows.map(({ mode }) => mode))
    .optional(),
  tail: yup
    .string()
    .oneOf(['wrap', 'cut'] as const)
    .optional(),
  gridStrength: yup.number().min(0).max(1).optional(),
});

export const searchForm = yup.object({
  name: yup.string().trim().required('Name it.').max(120, 'Name it, in up to 120 letters.'),
  address: yup.string().required().max(2000),
});
export const collectionForm = yup.object({
  name: yup.string().trim().required('Name it.').max(120, 'Name it, in up to 120 letters.'),
  rule: yup.string().max(2000).default(''),
  parentId: yup.number().integer().min(1).max(2_147_483_647).optional(),
});
export const versionForm = yup.object({
  name: yup.string().trim().required('Name it.').max(120, 'Name it, in up to 120 letters.'),
});
export const titleForm = yup.object({
  title: yup.string().trim().required('Say what it is called.').max(120, 'A title has up to 120 letters.'),
  /** The title that it is to be called so instead of; left out, whichever it has. */
  instead: yup.string().nullable().default(null),
});
export const loopChordsForm = yup.object({
  chords: yup.string().trim().max(2000, 'A line of chords has up to 2,000 letters.').default(''),
});
export const barNoteForm = yup.object({
  note: yup.string().trim().required('Say something.').max(500, 'A note has up to 500 letters.'),
  beat: yup.number().min(0).max(100_000).default(0),
  answersId: yup.number().integer().min(1).max(2147483647).nullable().default(null),
});
export const presenceForm = yup.object({
  pageId: yup
    .string()
    .matches(/^[\w-]{1,64}$/)
    .required(),
  clipId: yup
    .string()
    .matches(/^[\w-]{1,64}$/)
    .nullable()
    .default(null),
  leaves: yup.boolean().default(false),
});
/** What is left out stays as it is; what is empty is taken away. */
export const ratingForm = yup.object({
  stars: yup
    .number()
    .transform((value: number, typed: unknown) => (typed === '' ? null : value))
    .integer()
    .min(1)
    .max(5)
    .nullable(),
  note: yup.string().trim().max(500, 'A note has up to 500 letters.'),
});
export const fitWeightsForm = yup.object(
  Object.fromEntries(fitParts.map((part) => [part, yup.number().min(0).max(2).required()])) as Record<FitPart, yup.NumberSchema<number>>,
);

/** Whether a text is an object as JSON. */
function isJson(text: string): boolean {
  try {
    const read: unknown = JSON.parse(text);
    return typeof read === 'object' && read !== null;
  } catch {
    return false;
  }
}

export const remoteForm = yup.object({
  command: yup
    .string()
    .matches(/^(hello|keep(-\d{1,9})?|skip|back|play|silence|hands-free|blind|digit-[1-8])$/)
    .optional(),
  room: yup
    .string()
    .max(4000)
    .test('json', 'It could not be read what the room is at.', (text) => !text || isJson(text))
    .optional(),
});

export type FormErrors = Readonly<Record<string, string>>;

/** The values of a form, or what is wrong with each field. */
export async function readForm<S extends yup.AnyObjectSchema>(
  schema: S,
  form: FormData,
): Promise<{ ok: true; values: yup.InferType<S> } | { ok: false; errors: FormErrors }> {
  try {
    return {
      ok: true,
      values: await schema.validate(Object.fromEntries([...form].filter(([, value]) => typeof value === 'string')), {
        abortEarly: false,
        stripUnknown: true,
      }),
    };
  } catch (error) {
    if (!(error instanceof yup.ValidationError)) throw error;
    return { ok: false, errors: Object.fromEntries(error.inner.map((each) => [each.path ?? '', each.message])) };
  }
}
