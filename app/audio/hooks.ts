import { createContext, useContext, useEffect, useRef } from 'react';
import { useStore } from 'zustand';
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

/** Runs a drawing for every frame of the screen while mounted; React is not involved. */
export function useFrame(draw: () => void): void {
  const latest = useRef(draw);
  useEffect(() => {
    latest.current = draw;
  });
  useEffect(() => {
    let handle = 0;
    const tick = () => {
      latest.current();
      handle = requestAnimationFrame(tick);
    };
    handle = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(handle);
  }, []);
}
