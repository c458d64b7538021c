import { useState } from 'react';
import { attributes, loopKinds, sourceLabels, type Attribute, type Candidate, type KeyValue, type LoopKind } from '~core/analysis/facts';
import { instrumentById, instruments } from '~core/theory/instruments';
import { allKeys, keyName } from '~core/theory/key';
import { beatsPerBar } from '~core/units/time';
import { keyCode } from '~/ui/format';
import type { LoopDetail } from '~server/services/loops.server';

const labels: Readonly<Record<Attribute, string>> = {
  kind: 'Kind',
  tempo: 'Tempo',
  beats: 'Length',
  meter: 'Meter',
  start: 'Bar 1',
  key: 'Key',
  instrument: 'Instrument',
};
const keyValue = (value: unknown): KeyValue => value as KeyValue;

/** A fact's value in words. */
function inWords(attribute: Attribute, value: unknown, meter: string): string {
  if (attribute === 'tempo')
    return Number(value)
      .toFixed(2)
      .replace(/\.?0+$/, '');
  if (attribute === 'beats') {
    const bars = Number(value) / beatsPerBar(meter);
    return `${Number(value)} beats, ${Number.isInteger(bars) ? bars : bars.toFixed(2)} ${bars === 1 ? 'bar' : 'bars'}`;
  }
  if (attribute === 'start') return Number(value) < 0.0005 ? 'at the very start' : `${Number(value).toFixed(3)} s in`;
  if (attribute === 'key') {
    const key = keyValue(value);
    return key === 'unpitched' ? 'unpitched' : keyName(key);
  }
  if (attribute === 'instrument') return instrumentById(String(value))?.label ?? String(value);
  return attribute === 'kind' ? loopKinds[value as LoopKind] : String(value);
}

/** The form in which a value is sent back. */
const toField = (attribute: Attribute, value: unknown): string => {
  if (attribute !== 'key') return String(value);
  const key = keyValue(value);
  return key === 'unpitched' ? 'un' : keyCode(key);
};

function percent(confidence: number): string {
  return confidence > 0.995 ? 'sure' : `${Math.round(confidence * 100)} %`;
}

interface Props {
  readonly detail: LoopDetail;
  readonly onCorrect: (attribute: Attribute, value: string) => void;
  readonly onWithdraw: (attribute: Attribute) => void;
  readonly error: string | null;
}

/** Each fact with its value, its confidence, its rivals one click away, and its evidence. */
export function FactTable({ detail, onCorrect, onWithdraw, error }: Props) {
  const meter = detail.row.meter ?? '4/4';
  return (
    <section aria-labelledby="facts-title">
      <h2 id="facts-title">What is known, and why</h2>
      {error && (
        <p className="text-error" role="alert">
          {error}
        </p>
      )}
      <div className="mt-2 flex flex-col divide-y divide-base-300 border-y border-base-300">
        {attributes.map((attribute) => {
          const chosen = detail.chosen[attribute];
          // Where nothing was heard of a first bar, as in MIDI files, there is none to move.
          if (!chosen && attribute === 'start') return null;
          if (
            !chosen &&
            (attribute === 'beats' || attribute === 'tempo' || attribute === 'meter') &&
            detail.row.source.kind !== 'loop' &&
            detail.row.source.kind !== 'full-mix'
          )
            return null;
          const byPerson = detail.facts.find((fact) => fact.attribute === attribute && fact.source === 'person');
          return (
            <div key={attribute} className="grid grid-cols-[6.5rem_1fr] gap-x-3 py-2.5" data-fact={attribute}>
              <h3 className="pt-0.5 font-semibold">{labels[attribute]}</h3>
              <div>
                <p className="flex flex-wrap items-baseline gap-x-3">
                  <span className="text-base font-semibold" data-value>
                    {chosen ? inWords(attribute, chosen.value, meter) : 'unknown'}
                  </span>
                  {chosen &&
                    (byPerson ? (
                      <span className="quiet">
                        corrected by {byPerson.person}{' '}
                        <button className="link" onClick={() => onWithdraw(attribute)}>
                          take back
                        </button>
                      </span>
                    ) : (
                      <Confidence value={chosen.confidence} source={sourceLabels[chosen.source]} />
                    ))}
                </p>
                <Rivals
                  attribute={attribute}
                  meter={meter}
                  rivals={chosen?.alternatives ?? []}
                  value={chosen?.value}
                  beatSeconds={detail.row.source.tempoBpm ? 60 / detail.row.source.tempoBpm : null}
                  onCorrect={onCorrect}
                />
                {chosen && chosen.reasons.length > 0 && (
                  <details className="mt-1">
                    <summary className="quiet cursor-pointer">{chosen.reasons.join('; ')}</summary>
                    <Evidence detail={detail} attribute={attribute} meter={meter} />
                  </details>
                )}
              </div>
            </div>
          );
        })}
      </div>
    </section>
  );
}

function Confidence({ value, source }: { value: number; source: string }) {
  return (
    <span className="quiet inline-flex items-center gap-2">
      <span className="h-1.5 w-16 bg-base-300" aria-hidden="true">
        <span
          className="block h-full"
          style={{ width: `${value * 100}%`, background: value >= 0.85 ? 'var(--color-secondary)' : 'var(--color-accent)' }}
        />
      </span>
      {value < 0.85 ? 'probably, ' : ''}
      {percent(value)}, mostly by the {source}
    </span>
  );
}

/** Rivals as buttons (half and double always among a tempo's), and a way to say anything else. */
function Rivals({
  attribute,
  meter,
  rivals,
  value,
  beatSeconds,
  onCorrect,
}: {
  attribute: Attribute;
  meter: string;
  rivals: readonly Candidate[];
  value: unknown;
  beatSeconds: number | null;
  onCorrect: (attribute: Attribute, value: string) => void;
}) {
  const offered = attribute === 'tempo' && typeof value === 'number' ? withHalfAndDouble(rivals, value) : rivals.slice(0, 4);
  return (
    <div className="mt-1 flex flex-wrap items-center gap-1.5">
      {offered.map((rival) => (
        <button
          key={toField(attribute, rival.value)}
          className="btn btn-xs"
          title="Make this the value"
          onClick={() => onCorrect(attribute, toField(attribute, rival.value))}
        >
          {inWords(attribute, rival.value, meter)}
          {rival.probability > 0.005 && <span className="quiet">{Math.round(rival.probability * 100)} %</span>}
        </button>
      ))}
      {attribute === 'start' &&
        beatSeconds !== null &&
        [-1, 1]
          .map((beats) => ({ beats, to: Number(value) + beats * beatSeconds }))
          .filter(({ to }) => to >= -0.0005)
          .map(({ beats, to }) => (
            <button key={beats} className="btn btn-xs" onClick={() => onCorrect('start', Math.max(0, to).toFixed(4))}>
              a beat {beats < 0 ? 'earlier' : 'later'}
            </button>
          ))}
      <Other attribute={attribute} onCorrect={onCorrect} />
    </div>
  );
}

function withHalfAndDouble(rivals: readonly Candidate[], tempo: number): Candidate[] {
  const near = (a: number, b: number) => Math.abs(a / b - 1) < 0.005;
  const extra = [tempo / 2, tempo * 2]
    .filter((each) => each >= 20 && each <= 400 && !rivals.slice(0, 4).some((rival) => near(Number(rival.value), each)))
    .map((each) => ({ value: each, probability: 0 }));
  return [...rivals.slice(0, 4), ...extra];
}

function Other({ attribute, onCorrect }: { attribute: Attribute; onCorrect: (attribute: Attribute, value: string) => void }) {
  const [text, setText] = useState('');
  const options =
    attribute === 'key'
      ? [{ value: 'un', label: 'unpitched' }, ...allKeys.map((key) => ({ value: keyCode(key), label: keyName(key) }))]
      : attribute === 'instrument'
        ? instruments.map(({ id, label }) => ({ value: id, label }))
        : attribute === 'kind'
          ? Object.entries(loopKinds).map(([value, label]) => ({ value, label }))
          : attribute === 'meter'
            ? ['4/4', '3/4', '6/8'].map((value) => ({ value, label: value }))
            : null;
  if (options)
    return (
      <select
        className="select select-xs w-auto"
        aria-label={`Another ${labels[attribute].toLowerCase()}`}
        value=""
        onChange={(event) => event.target.value && onCorrect(attribute, event.target.value)}
      >
        <option value="">another …</option>
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.label}
          </option>
        ))}
      </select>
    );
  return (
    <form
      className="inline-flex gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim()) onCorrect(attribute, text.trim());
        setText('');
      }}
    >
      <input
        className="input input-xs w-20"
        inputMode="decimal"
        aria-label={
          attribute === 'tempo' ? 'Another tempo' : attribute === 'start' ? 'Another start of bar 1, in seconds' : 'Another number of beats'
        }
        placeholder={attribute === 'start' ? 'seconds' : attribute}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <button className="btn btn-xs">set</button>
    </form>
  );
}

function Evidence({ detail, attribute, meter }: { detail: LoopDetail; attribute: Attribute; meter: string }) {
  return (
    <table className="table table-xs mt-1">
      <thead>
        <tr>
          <th>who or what</th>
          <th>says</th>
          <th>how surely</th>
          <th>also possible</th>
        </tr>
      </thead>
      <tbody>
        {detail.facts
          .filter((fact) => fact.attribute === attribute)
          .map((fact, index) => (
            <tr key={index}>
              <td>{fact.person ?? sourceLabels[fact.source]}</td>
              <td>{inWords(attribute, fact.value, meter)}</td>
              <td>{percent(fact.confidence)}</td>
              <td>
                {fact.alternatives
                  .slice(0, 3)
                  .map((rival) => `${inWords(attribute, rival.value, meter)} ${percent(rival.probability)}`)
                  .join(', ')}
              </td>
            </tr>
          ))}
      </tbody>
    </table>
  );
}
