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
