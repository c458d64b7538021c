import { namesOf } from '~core/imports/options';
import { fold } from '~core/names/fold';
import { instruments, setOwnInstruments, type OwnInstrument } from '~core/theory/instruments';
import { selectRows } from '../db/connection';
import { addInstrumentSql, archiveInstrumentSql, ownInstrumentsSql } from '../db/queries/instruments';
import { announce, hearAnnouncements } from '../events/announce.server';
import { tellFinderInstruments } from '../search/finder.server';
import { recordActivity } from './people.server';

export interface OwnInstrumentLine extends OwnInstrument {
  readonly archived: boolean;
}

export const listOwnInstruments = (): Promise<OwnInstrumentLine[]> => selectRows<OwnInstrumentLine>(ownInstrumentsSql);

let hears = false;

/** Lets this process know the group's own instruments, now and whenever they change. */
export async function learnInstruments(): Promise<void> {
  setOwnInstruments(await listOwnInstruments());
  tellFinderInstruments();
  if (hears) return;
  hears = true;
  const again = () => void learnInstruments().catch(() => {});
  hearAnnouncements(({ kind }) => kind === 'instruments' && again(), again);
}

/** Adds an instrument of the group's own, or changes the one of that name. @returns its id, or what is wrong in words */
export async function addInstrument(
  { label, soundsAs, words }: { readonly label: string; readonly soundsAs: string; readonly words: string },
  personId: number,
): Promise<{ readonly id: string } | string> {
  const slug = fold(label)
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');
  if (slug === '') return 'Its name needs a letter from A to Z, or a digit.';
  if (instruments.some((each) => fold(each.label) === fold(label))) return `“${label}” is among the common instruments already.`;
  const id = `own-${slug}`;
  await selectRows(addInstrumentSql, [id, label, soundsAs, namesOf(words), personId]);
  await recordActivity(personId, 'added', 'instrument', null, { name: label });
  await tell();
  return { id };
}

/** Takes one out of the choices; loops that are it stay so. @returns whether it is there */
export async function archiveInstrument(id: string): Promise<boolean> {
  const [row] = await selectRows(archiveInstrumentSql, [id]);
  if (row) await tell();
  return row !== undefined;
}

/** This process knows at once, the others in a moment. */
async function tell(): Promise<void> {
  await learnInstruments();
  await announce({ kind: 'instruments' });
}
