/** What work depends on and licence texts speak of (common practice in reading such texts; no legal advice). */
export const licenceUses = ['commercial', 'uncredited', 'changed'] as const;
export type LicenceUse = (typeof licenceUses)[number];
export const licenceUseWords: Readonly<Record<LicenceUse, string>> = {
  commercial: 'commercial work',
  uncredited: 'use without credit',
  changed: 'changing it',
};

/** A word that denies what comes within a few words behind it, unless what it denies is a hindrance: “no restrictions on commercial use”. */
const denied = (words: string): string =>
    String.raw`\b(?:no|not|non|never|without)\b(?![- ](?:only|just|(?:(?!commercial)\w+ )?(?:restrict|limit|fee|royalt|extra|additional|further|charge|credit|attribution|permission|licen[cs]e|clearance|need)))(?:[- ]\w+){0,3}?[- ]?\b(?:${words})`,
  /** What is had only by asking, or not at all. */
  withheld = String.raw`(?:prohibited|forbidden|excluded|reserved|not\b|on request|by request|(?:needs?|requires?|only (?:with|by|after|under)) (?:(?:a|an|our|prior|written|separate|extra|additional|special) )*(?:licen[cs]e|permission|clearance|consent|agreement|fee))`,
  credit = String.raw`(?:credits?|attribution)`,
  oneOf = (...parts: readonly string[]): RegExp => new RegExp(parts.join('|'), 'i');

const rules: Readonly<Record<LicenceUse, { readonly no: RegExp; readonly yes: RegExp }>> = {
  commercial: {
    no: oneOf(
      String.raw`\bnon[- ]?(?:commercial|profit)\b|\b(?:is|are) not sold\b`,
      denied('commercial|broadcast|films?'),
      String.raw`\bcommercial(?:ly)?(?: \w+){0,2}? (?:is |are )?${withheld}`,
      String.raw`\bcommercial licen[cs]es? (?:is |are )?(?:available|sold|separate)`,
      String.raw`\b(?:personal|private|educational|editorial|evaluation|demo|home|hobby|internal) (?:(?:use|work|purposes?|projects?) )?only\b`,
      String.raw`\bfor (?:personal|private|educational|editorial|evaluation|internal) (?:use|work|purposes?|projects?)\b`,
      String.raw`\bby[- ]nc\b`,
    ),
    yes: /\b(royalty[- ]free|commercial(ly)?|public domain|cc0|cc[- ]by(?![- ]nc)|any (use|purpose|work)|free to use|films?|broadcast)\b/i,
  },
  uncredited: {
    no: oneOf(
      String.raw`(?<!\b(?:no|without|any|not need|not require) )\battribution\b(?! (?:is |are )?(?:not|optional|welcome|appreciated|never))`,
      String.raw`(?<!\b(?:no|without|any) )\b${credit} (?:is |are )?(?:required|needed|obligatory|mandatory|due)\b`,
      String.raw`\b(?:must|has to|have to|please|only) (?:be )?(?:credit|name)(?:ed)?\b`,
      String.raw`\bwith (?:full |a |due )?credits?\b`,
      String.raw`\b(?:give|giving) credit\b`,
      String.raw`\b(?:name|naming) the (?:maker|author|artist|producer|vendor)`,
      String.raw`\bwith the (?:maker|author|artist|producer|vendor)[’']s name\b`,
      String.raw`\bcc[- ]by\b`,
    ),
    yes: oneOf(
      String.raw`\b(?:no|without) ${credit}`,
      String.raw`\b${credit} (?:is |are )?(?:not (?:required|needed)|welcome|optional|appreciated)`,
      String.raw`\bpublic domain\b|\bcc0\b|\broyalty[- ]free\b`,
    ),
  },
  changed: {
    no: oneOf(
      denied('alter|chang|modif|edit|remix|deriv|adapt'),
      // “Not to be resold unaltered” is about selling.
      String.raw`(?<!\b(?:resold|resell|resale|sold|sell|shar|pass|distribut|redistribut)\w*\b[^.;·]{0,40})\b(?:unaltered|unchanged|unmodified|unedited)\b`,
      String.raw`\bby(?:[- ]nc)?[- ]nd\b`,
    ),
    yes: /\b(royalty[- ]free|derivatives?|remix\w*|alter\w*|modif\w*|adapt\w*|edit(ed|ing)?|chang(ed|es|ing)|public domain|cc0|cc[- ]by(?![- ]n[cd]))\b/i,
  },
};

/** Whether a licence allows a use: what it forbids outweighs what it allows; null where it says nothing of it. */
export function licenceAllows(text: string, use: LicenceUse): boolean | null {
  const { no, yes } = rules[use];
  if (no.test(text)) return false;
  return yes.test(text) ? true : null;
}

/** What several licences allow together: what one forbids is forbidden; what one says nothing of is not known. Of no licence nothing is known. */
export function licencesAllow(texts: readonly string[], use: LicenceUse): boolean | null {
  const all = texts.map((text) => licenceAllows(text, use));
  if (all.includes(false)) return false;
  return all.length > 0 && all.every((each) => each === true) ? true : null;
}

/** Whether a piece may come out with a loop in it, and what else its licences ask for. */
export interface Clearance {
  /** Sold, cut and fitted, as every piece does with its loops; null: they do not say. */
  readonly isClear: boolean | null;
  readonly wantsCredit: boolean;
  /** What to look at, in words; empty where it is clear. */
  readonly words: string;
}

/** What is known of a release, in words. */
export const releaseWords = ({ isClear }: Pick<Clearance, 'isClear'>): string =>
  isClear === null ? 'to be asked about' : isClear ? 'cleared' : 'not cleared for release';

/** @param texts licences under which a loop stands: its own, and of what it was made of; '' for one that is not stated */
export function clearanceOf(texts: readonly string[]): Clearance {
  const commercial = licencesAllow(texts, 'commercial'),
    changed = licencesAllow(texts, 'changed'),
    isStated = texts.length > 0 && texts.every((text) => text.trim() !== ''),
    doubts = [
      ...(commercial === false ? ['not for commercial work'] : []),
      ...(changed === false ? ['must not be changed'] : []),
      ...(commercial === null ? [isStated ? 'says nothing of commercial work' : 'no licence stated'] : []),
    ];
  return {
    isClear: commercial === false || changed === false ? false : commercial === null ? null : true,
    wantsCredit: licencesAllow(texts, 'uncredited') === false,
    words: doubts.join(', '),
  };
}
