import { useState } from 'react';
import * as Radix from '@radix-ui/react-popover';
import type { FitMark } from '~contracts/fit-mark';
import { fitPartWords } from '~core/search/fit/weights';

/** From here the span that is not known is worth a word. */
const wideFrom = 4;

const points = (value: number): string => (value < 0.005 ? 'nothing' : `${Math.round(100 * (1 - Math.exp(-value)))} in 100`);

/** How well a loop belongs, and why; the parts on demand. */
export function FitCell({ fit, title }: { fit: FitMark | null; title: string }) {
  if (!fit) return <span className="quiet">—</span>;
  return <KnownFit fit={fit} title={title} />;
}

function KnownFit({ fit, title }: { fit: FitMark; title: string }) {
  const [isAsked, setAsked] = useState(false),
    isWide = fit.high - fit.low >= wideFrom,
    button = { tabIndex: -1, className: 'flex w-full min-w-0 items-center gap-2 text-left' },
    face = (
      <>
        <span
          className="shrink-0 text-right font-semibold"
          title={isWide ? `${Math.round(fit.low)} to ${Math.round(fit.high)}: not all of it is known` : undefined}
        >
          {isWide ? '~' : ''}
          {Math.round(fit.score)}
        </span>
        <span className="quiet line-clamp-2 min-w-0 text-[0.79rem] leading-tight">{fit.words}</span>
        <span className="sr-only">, fit of {title}; show its parts</span>
      </>
    );
  // Of a list's many rows few are ever asked: until then a button is enough.
  if (!isAsked)
    return (
      <button
        {...button}
        onClick={(event) => {
          event.stopPropagation();
          setAsked(true);
        }}
      >
        {face}
      </button>
    );
  return (
    <Radix.Root defaultOpen>
      <Radix.Trigger {...button} onClick={(event) => event.stopPropagation()}>
        {face}
      </Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          aria-label={`Parts of the fit of ${title}`}
          align="end"
          sideOffset={4}
          collisionPadding={8}
          className="panel z-30 w-96 bg-base-100 p-3 shadow-sm"
          onClick={(event) => event.stopPropagation()}
          onKeyDown={(event) => event.stopPropagation()}
        >
          <h2>
            {Math.round(fit.score)} of 100
            {isWide && (
              <span className="quiet font-normal">
                {' '}
                · {Math.round(fit.low)} to {Math.round(fit.high)}, since not all is known
              </span>
            )}
          </h2>
          <table className="mt-2 w-full">
            <thead className="sr-only">
              <tr>
                <th>Part</th>
                <th>Takes</th>
                <th>Why</th>
              </tr>
            </thead>
            <tbody>
              {fit.parts.map(({ part, points: cost, doubt, words }) => (
                <tr key={part} className="align-top">
                  <th scope="row" className="py-0.5 pr-2 text-left font-medium" title={fitPartWords[part].asks}>
                    {fitPartWords[part].label}
                  </th>
                  <td className="w-24 py-0.5 pr-2">
                    <span className="mt-1.5 block h-2 bg-base-200" aria-hidden="true">
                      <span className="block h-2" style={{ width: `${Math.min(100, cost * 120)}%`, background: 'var(--color-primary)' }} />
                    </span>
                  </td>
                  <td className="quiet py-0.5">
                    {words ?? (cost < 0.005 && doubt === 0 ? 'takes nothing' : `takes ${points(cost)}`)}
                    {doubt > 0 && ' · not known'}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
