import { instrumentText } from '~/ui/format';
import { beatsToSeconds } from '~core/units/time';
import { attributeRow, attributes } from '~core/analysis/attributes/registry';
import { sureFrom, type Attribute, type Candidate } from '~core/analysis/facts';
import { sourceLabels } from '~core/analysis/sources';
import { factLabel, inWords, percent, toField, withHalfAndDouble } from '~/ui/fact-words';
import type { FactLine, LoopDetail } from '~contracts/loop-detail';
import { AnotherValue } from '~/ui/another-value';

interface Props {
  readonly detail: LoopDetail;
  readonly onCorrect: (attribute: Attribute, value: string) => void;
  readonly onWithdraw: (attribute: Attribute) => void;
  readonly error: string | null;
}

/** Each fact with its value, its confidence, its rivals one click away, and its evidence. */
export function FactTable({ detail, onCorrect, onWithdraw, error }: Props) {
  const { barBeats } = detail.row.source;
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
          const { kinds } = attributeRow(attribute);
          if (!chosen && kinds !== null && !kinds.includes(detail.row.source.kind)) return null;
          const byPerson = detail.facts.find((fact) => fact.attribute === attribute && fact.source === 'person');
          return (
            <div key={attribute} className="grid grid-cols-[6.5rem_1fr] gap-x-3 py-2.5" data-fact={attribute}>
              <h3 className="pt-0.5 font-semibold">{factLabel(attribute)}</h3>
              <div>
                <p className="flex flex-wrap items-baseline gap-x-3">
                  <span className="text-base font-semibold" data-value>
                    {chosen
                      ? `${attribute === 'instrument' && detail.row.source.instrument === null ? `${instrumentText(detail.row.source)} Perhaps ` : ''}${inWords(attribute, chosen.value, barBeats)}`
                      : attribute === 'tempo' && detail.row.source.kind === 'phrase'
                        ? 'none: it plays at its own'
                        : 'unknown'}
                  </span>
                  {chosen &&
                    (byPerson ? (
                      <span className="quiet">
                        corrected by {byPerson.person}{' '}
                        <button className="link" onClick={() => onWithdraw(attribute)}>
                          take back
                        </button>
                        <HeardSince attribute={attribute} detail={detail} said={byPerson} rival={chosen.alternatives[0]} />
                      </span>
                    ) : (
                      <Confidence value={chosen.confidence} source={sourceLabels[chosen.source]} />
                    ))}
                </p>
                <Rivals
                  attribute={attribute}
                  barBeats={barBeats}
                  rivals={chosen?.alternatives ?? []}
                  value={chosen?.value}
                  beatSeconds={detail.row.source.tempoBpm ? beatsToSeconds(1, detail.row.source.tempoBpm) : null}
                  onCorrect={onCorrect}
                />
                {chosen && chosen.reasons.length > 0 && (
                  <details className="mt-1">
                    <summary className="quiet cursor-pointer">{chosen.reasons.join('; ')}</summary>
                    <Evidence detail={detail} attribute={attribute} barBeats={barBeats} />
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

/** When all that was heard since a person spoke says something else, that is said beside their word, and no louder. */
function HeardSince({
  attribute,
  detail,
  said,
  rival,
}: {
  attribute: Attribute;
  detail: LoopDetail;
  said: FactLine;
  rival: Candidate | undefined;
}) {
  const isNewer = detail.facts.some((fact) => fact.attribute === attribute && fact.person === null && fact.at > said.at);
  if (!isNewer || !rival || rival.probability < sureFrom) return null;
  return (
    <span data-heard-since>
      {' '}
      · heard anew since: {inWords(attribute, rival.value, detail.row.source.barBeats)}, {percent(rival.probability)}
    </span>
  );
}

function Confidence({ value, source }: { value: number; source: string }) {
  return (
    <span className="quiet inline-flex items-center gap-2">
      <span className="h-1.5 w-16 bg-base-300" aria-hidden="true">
        <span
          className="block h-full"
          style={{ width: `${value * 100}%`, background: value >= sureFrom ? 'var(--color-secondary)' : 'var(--color-accent)' }}
        />
      </span>
      {value < sureFrom ? 'probably, ' : ''}
      {percent(value)}, mostly by the {source}
    </span>
  );
}

/** Rivals as buttons (half and double always among a tempo's), and a way to say anything else. */
function Rivals({
  attribute,
  barBeats,
  rivals,
  value,
  beatSeconds,
  onCorrect,
}: {
  attribute: Attribute;
  barBeats: number;
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
          {inWords(attribute, rival.value, barBeats)}
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
      <AnotherValue attribute={attribute} onCorrect={onCorrect} />
    </div>
  );
}

function Evidence({ detail, attribute, barBeats }: { detail: LoopDetail; attribute: Attribute; barBeats: number }) {
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
              <td>{inWords(attribute, fact.value, barBeats)}</td>
              <td>{percent(fact.confidence)}</td>
              <td>
                {fact.alternatives
                  .filter(({ probability }) => probability >= 0.005)
                  .slice(0, 3)
                  .map((rival) => `${inWords(attribute, rival.value, barBeats)} ${percent(rival.probability)}`)
                  .join(', ')}
              </td>
            </tr>
          ))}
      </tbody>
    </table>
  );
}
