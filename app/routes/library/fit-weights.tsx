import { useEffect, useRef, useState } from 'react';
import { fitParts, fitPartWords, usualWeights, type FitPart, type FitWeights as Weights } from '~core/search/fit/weights';
import { api } from '~/ui/api';
import { Popover } from '~/ui/popover';
import { useSend } from '~/ui/use-send';

const gatherMs = 250;

/** How heavy each part of fit is: turned by ear, kept for who turns. */
export function FitWeights({ weights }: { weights: Weights }) {
  const [own, setOwn] = useState(weights),
    send = useSend(),
    sent = useRef(weights);
  useEffect(() => {
    if (fitParts.every((part) => own[part] === sent.current[part])) return;
    const pause = setTimeout(() => {
      sent.current = own;
      void send(api.fitWeights, 'put', Object.fromEntries(fitParts.map((part) => [part, own[part]])));
    }, gatherMs);
    return () => clearTimeout(pause);
  }, [own, send]);
  const set = (part: FitPart, value: number) => setOwn((now) => ({ ...now, [part]: value }));
  return (
    <Popover label="What fits" hint="What fits: what is weighed">
      <h2>What is weighed</h2>
      <p className="quiet mt-1">To the left it is left out, to the right it is twice as heavy.</p>
      <div className="mt-2 grid grid-cols-[5rem_1fr_2.5rem] items-center gap-x-3 gap-y-1.5">
        {fitParts.map((part) => (
          <label key={part} className="contents" title={fitPartWords[part].asks}>
            <span>{fitPartWords[part].label}</span>
            <input
              type="range"
              className="range range-xs"
              min={0}
              max={2}
              step={0.1}
              value={own[part]}
              onChange={(event) => set(part, Number(event.target.value))}
            />
            <span className="text-right">{own[part].toFixed(1)}</span>
          </label>
        ))}
      </div>
      <button className="btn btn-sm mt-3" onClick={() => setOwn(usualWeights)}>
        As usual
      </button>
    </Popover>
  );
}
