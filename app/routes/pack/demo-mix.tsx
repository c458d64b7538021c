import { useEffect, useRef, useState } from 'react';
import { Pause, Play } from 'lucide-react';
import { demoBars, demoRoleLabels } from '~core/arrangement/demo-mix';
import { useEngine } from '~/audio/hooks';
import { api } from '~/ui/api';
import { askingInOrder, askOrTell } from '~/ui/ask';
import { tempoText } from '~/ui/format';
import { useLive } from '~/ui/live';
import { RoomLink } from '~/ui/room-link';
import { Waveform } from '~/ui/waveform';
import type { DemoLine } from '~server/services/demo-mix.server';

/** Sixteen bars of the pack's own loops: asked for once, then there for everybody. */
export function DemoMix({ packId, packName, initial }: { packId: number; packName: string; initial: DemoLine }) {
  const [line, setLine] = useState(initial),
    [isAsked, setAsked] = useState(false),
    [isPlaying, setPlaying] = useState(false),
    player = useRef<HTMLAudioElement>(null),
    playhead = useRef<HTMLDivElement>(null),
    engine = useEngine();
  const [inOrder] = useState(askingInOrder),
    refresh = () => void inOrder<DemoLine>(api.packDemo(packId)).then((fresh) => fresh && setLine(fresh));
  useLive('pack', (event) => event.packId === packId && refresh());
  useLive('missed', refresh);
  // The one that was asked for is heard as soon as it is there.
  useEffect(() => {
    if (!isAsked || line.state !== 'done' || !player.current) return;
    void player.current.play().catch(() => {});
  }, [isAsked, line.state, line.fileSha]);
  useEffect(() => {
    if (!isPlaying) return;
    let handle = 0;
    const draw = () => {
      const { current } = player;
      if (current && playhead.current)
        playhead.current.style.left = `${(100 * current.currentTime) / Math.max(0.1, current.duration || line.lengthSeconds)}%`;
      handle = requestAnimationFrame(draw);
    };
    handle = requestAnimationFrame(draw);
    return () => cancelAnimationFrame(handle);
  }, [isPlaying, line.lengthSeconds]);
  const toggle = () => {
    const { current } = player;
    if (line.state !== 'done') {
      setAsked(true);
      void askOrTell(api.packDemo(packId), { method: 'post' }).then((asked) => asked ?? setAsked(false));
    } else if (current && isPlaying) current.pause();
    else if (current) void current.play().catch(() => {});
  };
  const isComing = isAsked && line.state !== 'done' && line.state !== 'failed';
  return (
    <section className="panel p-3" aria-labelledby="demo-title" data-demo={line.state}>
      <div className="flex items-center gap-3">
        <button
          className="btn btn-primary btn-square"
          aria-label={isPlaying ? `Silence the demo mix of ${packName}` : `Hear the demo mix of ${packName}`}
          disabled={isComing || line.state === 'failed'}
          onClick={toggle}
        >
          {isPlaying ? <Pause className="size-5" fill="currentColor" /> : <Play className="size-5" fill="currentColor" />}
        </button>
        <div className="min-w-0">
          <h2 id="demo-title">Demo mix</h2>
          <p className="quiet" role="status">
            {isComing
              ? 'being put together and rendered, a few seconds …'
              : line.state === 'failed'
                ? line.message
                : line.state === 'done'
                  ? `${demoBars} bars at ${tempoText(line.tempoBpm)} of its own loops that agree`
                  : `${demoBars} bars of its own loops that agree; put together when first heard`}
          </p>
        </div>
      </div>
      {line.state === 'done' && line.layers.length > 0 && (
        <RoomLink
          className="link mt-2 inline-block"
          to={`/?near=like:${line.layers
            .slice(0, 8)
            .map(({ loopId }) => loopId)
            .join('.')}:1-0-0&sort=likeness&dir=desc`}
        >
          Look for what sounds like this demo
        </RoomLink>
      )}
      {line.state === 'done' && (
        <>
          <div
            className="relative mt-3 h-14 cursor-pointer"
            onPointerDown={(event) => {
              const { left, width } = event.currentTarget.getBoundingClientRect();
              if (player.current) player.current.currentTime = ((event.clientX - left) / width) * line.lengthSeconds;
            }}
          >
            <Waveform overview={line.overview ?? ''} beats={demoBars} barBeats={4} className="size-full" />
            <div ref={playhead} className="absolute inset-y-0 w-px bg-primary" style={{ left: 0 }} aria-hidden="true" />
          </div>
          <ul className="mt-1 flex flex-col gap-1" aria-label="What comes in when">
            {line.layers.map(({ role, loopId, title, startBar }) => (
              <li key={role} className="relative h-6 rounded-sm bg-base-200">
                <span
                  className="absolute inset-y-0 right-0 flex items-center gap-2 overflow-hidden rounded-sm bg-base-300 px-2"
                  style={{ left: `${(100 * startBar) / demoBars}%` }}
                >
                  <span className="caps shrink-0">{demoRoleLabels[role]}</span>
                  <RoomLink to={`/loops/${loopId}`} className="link truncate" title={`${title}, from bar ${startBar + 1} on`}>
                    {title}
                  </RoomLink>
                </span>
              </li>
            ))}
          </ul>
          <audio
            ref={player}
            src={`/media/demo/${packId}?${line.fileSha?.slice(0, 12)}`}
            preload="auto"
            onPlay={() => {
              // One thing sounds at a time, where nothing is to be heard together.
              engine.stop();
              engine.audition.stop();
              setPlaying(true);
            }}
            onPause={() => setPlaying(false)}
            onEnded={() => setPlaying(false)}
          />
        </>
      )}
    </section>
  );
}
