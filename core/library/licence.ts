/** What work depends on and licence texts speak of (common practice in reading such texts; no legal advice). */
export const licenceUses = ['commercial', 'uncredited', 'changed'] as const;
export type LicenceUse = (typeof licenceUses)[number];
export const licenceUseWords: Readonly<Record<LicenceUse, string>> = {
  commercial: 'commercial work',
  uncredited: 'use without credit',
  changed: 'changing it',
};

const rules: Readonly<Record<LicenceUse, { readonly no: RegExp; readonly yes: RegExp }>> = {
  commercial: {
    no: /\b(non[- ]?commercial|not? (for )?commercial|personal use only|private use only|by-nc)\b/i,
    yes: /\b(royalty[- ]free|commercial|public domain|cc0|cc[- ]by(?![- ]nc)|any (use|purpose|work)|free to use|films?|broadcast)\b/i,
  },
  uncredited: {
    no: /(?<!no )\b(attribution|credit (is )?(required|needed)|must (be )?credit|with credit|name the (maker|author)|cc[- ]by)\b/i,
    yes: /\b(no (credit|attribution)|without credit|credit (is )?(not required|welcome|optional)|public domain|cc0|royalty[- ]free)\b/i,
  },
  changed: {
    no: /\b(no[- ]deriv\w*|unaltered|unchanged|by-nd|by-nc-nd)\b/i,
    yes: /\b(royalty[- ]free|derivatives?|remix|alter|public domain|cc0|cc[- ]by(?!-n[cd]))\b/i,
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
