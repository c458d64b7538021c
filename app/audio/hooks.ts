import { createContext, useContext, useEffect, useRef } from 'react';
import { useStore } from 'zustand';
import { DrawPace } from './draw-pace';
import type { AudioEngine } from './engine';
import type { EngineState } from './store';

export const EngineContext = createContext<AudioEngine | null>(null);

export function useEngine(): AudioEngine {
  const engine = useContext(EngineContext);
  if (!engine) throw new Error('outside the room');
  return engine;
}

export function useEngineState<T>(select: (state: EngineState) => T): T {
  return useStore(useEngine().store, select);
}

const drawings = new Set<() => void>(),
  pace = new DrawPace();
let handle = 0;
function drawAll(nowMs: number): void {
  handle = requestAnimationFrame(drawAll);
  if (pace.shouldDraw(nowMs)) for (const draw of drawings) draw();
}

/** Runs a drawing with the frames of the screen while mounted, see `DrawPace`; React is not involved. */
export function useFrame(draw: () => void): void {
  const latest = useRef(draw);
  useEffect(() => {
    latest.current = draw;
  });
  useEffect(() => {
    const mine = () => latest.current();
    drawings.add(mine);
    if (drawings.size === 1) handle = requestAnimationFrame(drawAll);
    return () => {
      drawings.delete(mine);
      if (drawings.size === 0) cancelAnimationFrame(handle);
    };
  }, []);
}
