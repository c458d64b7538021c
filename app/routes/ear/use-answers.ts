import { useRef, useState } from 'react';
import { attributeRow } from '~core/analysis/attributes/registry';
import type { Candidate } from '~core/analysis/facts';
import type { Change } from '~core/library/change';
import { appliesTo, ruleOf, type Answer, type Rule } from '~core/library/rules';
import { useRenewal } from '~/ui/use-renewal';
import { api } from '~/ui/api';
import { ask, askOrTell, withForm } from '~/ui/ask';
import { changeMany } from '~/ui/edit-many';
import { factLabel, inWords } from '~/ui/fact-words';
import { toast } from '~/ui/toast';
import type { AlikeDoubt, Doubt } from '~server/services/doubts.server';

/** What was said, by number. */
interface Words {
  readonly words: readonly number[];
}

export const nameOf = ({ row, attribute }: Doubt): string => `${row.id}-${attribute}`;

/** What was just said, and what the same could be said of. */
export interface LastAnswer {
  readonly doubt: Doubt;
  readonly value: unknown;
  readonly ofSet: readonly AlikeDoubt[];
  readonly ofPack: readonly AlikeDoubt[];
}

/** A rule that the last answers make, and the doubts it would settle. */
export interface Offer {
  readonly rule: Rule;
  readonly doubt: Doubt;
  readonly loopIds: readonly number[];
}

/** Says what doubtful facts are, one by one and many at once; each with a way back. */
export function useAnswers() {
  const renew = useRenewal(),
    said = useRef<Answer[]>([]),
    [last, setLast] = useState<LastAnswer | null>(null),
    [offer, setOffer] = useState<Offer | null>(null);

  /** Takes back what was said just now; what others have said since stays. */
  const takeBack = async (words: readonly number[]) => {
    await askOrTell(api.words, { method: 'delete', body: new URLSearchParams(words.map((word) => ['word', String(word)])) });
    void renew();
  };
  const agreeWith = async (facts: readonly string[]) => {
    const agreed = await askOrTell<Words>(api.agreedFacts, {
      method: 'put',
      body: new URLSearchParams(facts.map((fact) => ['fact', fact])),
    });
    void renew();
    if (!agreed) return;
    const { length } = agreed.words;
    toast(`Agreed with ${length} ${length === 1 ? 'guess' : 'guesses'}.`, {
      action: length > 0 ? { label: 'Undo', onClick: () => void takeBack(agreed.words) } : undefined,
    });
  };

  const say = async (doubt: Doubt, value: unknown, isOther = false) => {
    const { row, attribute } = doubt,
      field = attributeRow(attribute).toText(value as never);
    setOffer(null);
    setLast(null);
    const answered = await askOrTell<Words>(api.fact(row.id, attribute), withForm('put', { value: field }));
    if (!answered) return;
    void renew();
    const words = isOther ? 'set by you' : inWords(attribute, value, row.source.barBeats);
    toast(`${row.title}: ${factLabel(attribute).toLowerCase()} ${words}.`, {
      action: {
        label: 'Undo',
        onClick: () => {
          // What was taken back makes no rule.
          said.current = said.current.filter(({ loopId, attribute: fact }) => loopId !== row.id || fact !== attribute);
          setLast(null);
          setOffer(null);
          void takeBack(answered.words);
        },
      },
    });
    said.current = [...said.current.slice(-60), { attribute, packId: row.packId, loopId: row.id, guess: doubt.value, answer: value }];
    const found = ruleOf(said.current),
      others = await ask<{ alike: AlikeDoubt[] }>(api.doubtsAlike(row.id, attribute, found?.rule.kind === 'becomes'));
    if (!others.ok) return;
    const { alike } = others.answer;
    setLast({ doubt, value, ofSet: alike.filter(({ isOfSet }) => isOfSet), ofPack: alike });
    if (!found) return;
    const { fromText } = attributeRow(attribute),
      loopIds = alike
        .filter(({ guess }) => appliesTo(found.rule, attribute, guess === null ? null : fromText(guess)))
        .map(({ loopId }) => loopId);
    if (loopIds.length > 0) setOffer({ rule: found.rule, doubt, loopIds });
  };

  const change = async (loopIds: readonly number[], asked: Change) => {
    const wrong = await changeMany({ ids: loopIds }, asked);
    // What changes is announced, and the page asks anew then.
    if (wrong) toast.error(wrong);
  };
  /** Says of others what was just said. */
  const saySame = (loopIds: readonly number[]) => {
    if (!last) return;
    const { attribute } = last.doubt;
    setLast(null);
    setOffer(null);
    void change(loopIds, { kind: 'fact', attribute, value: attributeRow(attribute).toText(last.value as never) });
  };
  const follow = ({ rule, doubt: { attribute }, loopIds }: Offer) => {
    setOffer(null);
    setLast(null);
    said.current = [];
    if (rule.kind === 'agree') void agreeWith(loopIds.map((id) => `${id}-${attribute}`));
    else
      void change(
        loopIds,
        rule.kind === 'times' ? { kind: 'tempo-times', factor: rule.factor } : { kind: 'fact', attribute, value: rule.to },
      );
  };
  return {
    say,
    answer: (doubt: Doubt, { value }: Candidate) => void say(doubt, value),
    agreeWith,
    last,
    saySame,
    offer,
    follow,
    decline: () => setOffer(null),
  };
}

/** Which of the marked the same could be said of: other loops, and the same fact. */
export const markedAlike = (last: LastAnswer, doubts: readonly Doubt[], marked: ReadonlySet<string>): number[] =>
  doubts
    .filter((each) => marked.has(nameOf(each)) && each.attribute === last.doubt.attribute && each.row.id !== last.doubt.row.id)
    .map(({ row }) => row.id);
