import { useEffect, useId, useRef, useState } from 'react';
import { attributeRow, attributes, type AttributeName } from '~core/analysis/attributes/registry';
import { readChange, titleTokens, type Change } from '~core/library/change';
import { factLabel } from '~/ui/fact-words';
import { askPreview, changeMany, type ChangePreview, type Selection } from '~/ui/edit-many';

/** What is offered, in the order in which librarians need it. */
const offers: readonly { readonly name: string; readonly label: string }[] = [
  { name: 'tempo-times:0.5', label: 'Tempo: halve it' },
  { name: 'tempo-times:2', label: 'Tempo: double it' },
  ...attributes.map((name) => ({ name: `fact:${name}`, label: `${factLabel(name)}: say what it is` })),
  { name: 'tag:on', label: 'Tag: add one' },
  { name: 'tag:off', label: 'Tag: take one away' },
  { name: 'title', label: 'Title: by a pattern' },
  { name: 'collection:on', label: 'Collection: put into one of mine' },
  { name: 'collection:off', label: 'Collection: take out of one of mine' },
  { name: 'set', label: 'Set: put into one, or out of any' },
  { name: 'pack', label: 'Pack: move to another' },
];

/** The change as it stands in the dialog, or what is missing, in words. */
function changeOf(offer: string, text: string, isWithdrawn: boolean): Change | string {
  const [kind, what] = offer.split(':');
  if (kind === 'tempo-times') return readChange({ kind, factor: Number(what) });
  if (kind === 'fact') return readChange({ kind, attribute: what, value: isWithdrawn ? null : text });
  if (kind === 'tag') return readChange({ kind, name: text, isWanted: what === 'on' });
  if (kind === 'collection') return readChange({ kind, name: text, isWanted: what === 'on' });
  if (kind === 'title') return readChange({ kind, pattern: text });
  if (kind === 'set') return readChange({ kind, stem: text });
  return readChange({ kind: 'pack', name: text });
}

const fieldLabels: Readonly<Record<string, string>> = { title: 'Pattern', tag: 'Tag', set: 'Set', pack: 'Pack', collection: 'Collection' };

interface Props {
  readonly selection: Selection;
  readonly count: number;
  readonly onClose: () => void;
  readonly onDone: () => void;
}

/** Changes many loops in one step: what, to what, and what it would do before it is done. */
export function EditManyDialog({ selection, count, onClose, onDone }: Props) {
  const ref = useRef<HTMLDialogElement>(null),
    titleId = useId(),
    [offer, setOffer] = useState(offers[0].name),
    [text, setText] = useState(''),
    [isWithdrawn, setWithdrawn] = useState(false),
    [preview, setPreview] = useState<ChangePreview | string | null>(null),
    [isSending, setSending] = useState(false);
  const change = changeOf(offer, text, isWithdrawn),
    asked = JSON.stringify(change);
  useEffect(() => ref.current?.showModal(), []);
  useEffect(() => {
    let gone = false;
    // Not for every letter that is typed.
    const timer = setTimeout(async () => {
      const wanted = JSON.parse(asked) as Change | string,
        found = typeof wanted === 'string' ? null : await askPreview(selection, wanted);
      if (!gone) setPreview(found);
    }, 250);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [asked, selection]);
  const apply = async () => {
    if (typeof change === 'string') return setPreview(change);
    setSending(true);
    const wrong = await changeMany(selection, change);
    setSending(false);
    if (wrong !== null) return setPreview(wrong);
    // Not left to the dialog's own event, which comes when it is gone.
    onClose();
    onDone();
  };
  const [kind, what] = offer.split(':'),
    found = typeof preview === 'object' && preview !== null ? preview : null;
  return (
    <dialog ref={ref} className="modal" onClose={onClose} aria-labelledby={titleId}>
      <form
        className="modal-box max-w-2xl"
        onSubmit={(event) => {
          event.preventDefault();
          void apply();
        }}
      >
        <h2 id={titleId}>
          Edit {count.toLocaleString('en')} {count === 1 ? 'loop' : 'loops'}
        </h2>
        <div className="mt-3 grid gap-3 sm:grid-cols-2">
          <label className="flex flex-col gap-1">
            <span className="caps">Change</span>
            <select
              className="select w-full"
              value={offer}
              onChange={(event) => {
                setOffer(event.target.value);
                setText('');
                setWithdrawn(false);
                setPreview(null);
              }}
            >
              {offers.map(({ name, label }) => (
                <option key={name} value={name}>
                  {label}
                </option>
              ))}
            </select>
          </label>
          {kind === 'fact' ? (
            <FactField attribute={what as AttributeName} text={text} onText={setText} disabled={isWithdrawn} />
          ) : kind !== 'tempo-times' ? (
            <label className="flex flex-col gap-1">
              <span className="caps">{fieldLabels[kind]}</span>
              <input
                className="input w-full"
                value={text}
                placeholder={kind === 'title' ? '{instrument} {tempo} {n2}' : kind === 'set' ? 'empty: out of any set' : ''}
                onChange={(event) => setText(event.target.value)}
              />
            </label>
          ) : (
            <span />
          )}
        </div>
        {kind === 'fact' && (
          <label className="mt-2 flex items-center gap-2">
            <input type="checkbox" className="checkbox checkbox-sm" checked={isWithdrawn} onChange={() => setWithdrawn(!isWithdrawn)} />
            Take back what people said; the detectors speak again
          </label>
        )}
        {kind === 'title' && (
          <p className="quiet mt-2">
            Can be used: {titleTokens.map((token) => `{${token}}`).join(' ')}, and {'{n2}'}, {'{n3}'} with zeros.
          </p>
        )}
        <div className="mt-4 min-h-64" aria-live="polite">
          {typeof preview === 'string' ? (
            <p className="text-error" role="alert">
              {preview}
            </p>
          ) : found ? (
            <>
              <p className="font-semibold">
                {found.changing === 0
                  ? 'Nothing would change.'
                  : found.lookedAt < found.chosen
                    ? `Of the first ${found.lookedAt}, ${found.changing} would change.`
                    : `${found.changing} of ${found.chosen} would change.`}
              </p>
              <table className="table table-xs mt-1">
                <tbody>
                  {found.lines.map(({ id, title, before, after }) => (
                    <tr key={id}>
                      <td className="max-w-60 truncate">{title}</td>
                      <td className="quiet max-w-40 truncate">{before}</td>
                      <td aria-hidden="true">→</td>
                      <td className="max-w-52 truncate font-semibold">{after}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
              {found.changing > found.lines.length && <p className="quiet mt-1">and {found.changing - found.lines.length} more</p>}
            </>
          ) : (
            <p className="quiet">
              {typeof change === 'string' && text !== '' ? change : 'What it would do is shown here before it is done.'}
            </p>
          )}
        </div>
        <div className="modal-action">
          <button type="button" className="btn" onClick={() => ref.current?.close()}>
            Cancel
          </button>
          <button className="btn btn-primary" disabled={isSending || typeof change === 'string' || found?.changing === 0}>
            Change them
          </button>
        </div>
      </form>
    </dialog>
  );
}

/** A value as its attribute takes it: a choice where there are few, else a field. */
function FactField({
  attribute,
  text,
  onText,
  disabled,
}: {
  attribute: AttributeName;
  text: string;
  onText: (text: string) => void;
  disabled: boolean;
}) {
  const { choices, field } = attributeRow(attribute);
  return (
    <label className="flex flex-col gap-1">
      <span className="caps">{field.label || factLabel(attribute)}</span>
      {choices ? (
        <select className="select w-full" value={text} disabled={disabled} onChange={(event) => onText(event.target.value)}>
          <option value="">choose …</option>
          {choices.map(({ value, label }) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
        </select>
      ) : (
        <input
          className="input w-full"
          value={text}
          disabled={disabled}
          placeholder={field.placeholder}
          inputMode={field.isNumber ? 'decimal' : 'text'}
          onChange={(event) => onText(event.target.value)}
        />
      )}
    </label>
  );
}
