import { useEffect, useState } from 'react';
import { useEngine, useEngineState } from '~/audio/hooks';
import type { Route } from './+types/route';

export const meta: Route.MetaFunction = () => [{ title: 'Diagnostics · Garnetfinch' }];

/** How the sound of this page is doing: for whoever wonders why something is late. */
export default function Diagnostics() {
  const engine = useEngine(),
    [figures, setFigures] = useState(() => engine.figures()),
    trouble = useEngineState((state) => state.trouble);
  useEffect(() => {
    const timer = setInterval(() => setFigures(engine.figures()), 500);
    return () => clearInterval(timer);
  }, [engine]);
  return (
    <div className="mx-auto max-w-3xl p-5">
      <h1>Diagnostics</h1>
      {!figures ? (
        <p className="quiet mt-2">The sound has not been opened yet. Click a loop or press Space.</p>
      ) : (
        <dl className="mt-3 grid grid-cols-[auto_1fr] gap-x-6 gap-y-1.5">
          <Line name="audio device" value={`${figures.state}, ${(figures.sampleRateHz / 1000).toFixed(1)} kHz`} />
          <Line
            name="latency"
            value={`${Math.round(figures.baseLatencySeconds * 1000)} ms in the browser, ${Math.round(figures.outputLatencySeconds * 1000)} ms to the device`}
          />
          <Line
            name="fitted loops kept"
            value={`${figures.buffers}, ${(figures.bytes / 2 ** 20).toFixed(0)} of ${(figures.mostBytes / 2 ** 20).toFixed(0)} MB`}
          />
          <Line name="found ready" value={`${figures.found} of ${figures.found + figures.made} asked for`} />
          <Line name="thrown away, least recently used" value={String(figures.dropped)} />
          <Line name="no longer wanted" value={String(figures.unwanted)} />
          <Line name="being fitted" value={`${figures.working}, ${figures.waiting} waiting`} />
          <Line name="trouble" value={trouble ?? 'none'} />
        </dl>
      )}
    </div>
  );
}

const Line = ({ name, value }: { name: string; value: string }) => (
  <>
    <dt className="quiet">{name}</dt>
    <dd className="tabular-nums">{value}</dd>
  </>
);
