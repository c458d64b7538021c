import { useEffect, useRef } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { useNavigate } from 'react-router';
import { inRoom } from '~contracts/room-address';
import type { AudioEngine } from '~/audio/engine';
import type { ProjectStore } from '~/ui/project-store';
import { toast } from '~/ui/toast';
import { favouriteSounding, hearSibling } from './sounding-acts';

const free = (): boolean => document.querySelector('dialog[open]') === null;

/** Keys that work on every page. Fields and open dialogs keep their own. */
export function useRoomKeys(engine: AudioEngine, projectStore: ProjectStore, onHelp: () => void): void {
  const navigate = useNavigate();
  const help = useRef(onHelp);
  useEffect(() => {
    help.current = onHelp;
  });
  useEffect(() => {
    // By the character, not by key and Shift: where `?` lies differs from keyboard to keyboard.
    const listen = (event: KeyboardEvent) => {
      if (
        event.key === '?' &&
        !(event.target as HTMLElement).closest('input, textarea, select') &&
        document.querySelector('dialog[open]') === null
      )
        help.current();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
  useEffect(() => {
    // Hands-free: one key keeps, one ends, every other goes on. Before anything else hears of them.
    const listen = (event: KeyboardEvent) => {
      if (!engine.store.getState().handsFree || event.ctrlKey || event.metaKey || event.altKey) return;
      if (['Shift', 'Control', 'Alt', 'Meta', 'Tab'].includes(event.key)) return;
      event.preventDefault();
      event.stopPropagation();
      if (event.key === 'Escape') void engine.audition.handsFree.set(null);
      else if (event.key === ' ') {
        if (engine.audition.shortlist.keepCandidate()) toast('Kept.');
        else toast.error('The shortlist is full.');
      } else engine.audition.handsFree.skip();
    };
    window.addEventListener('keydown', listen, { capture: true });
    return () => window.removeEventListener('keydown', listen, { capture: true });
  }, [engine]);
  useHotkeys('1,2,3,4,5,6,7,8', (event) => {
    if (free()) engine.audition.shortlist.hearDigit(Number(event.key));
  });
  useHotkeys('k', () => {
    if (free() && !engine.audition.shortlist.keepCandidate()) toast.error('The shortlist is full. Drop one first.');
  });
  useHotkeys('b', () => {
    if (free()) engine.audition.shortlist.setBlind(!engine.audition.shortlist.isBlind);
  });
  useHotkeys('f', () => {
    // The list has its own row under its cursor.
    if (free() && !document.activeElement?.closest('[data-loop-list]')) void favouriteSounding(engine);
  });
  useHotkeys('comma', () => {
    if (free()) void hearSibling(engine, -1);
  });
  useHotkeys('period', () => {
    if (free()) void hearSibling(engine, 1);
  });
  useHotkeys('h', () => {
    if (free()) void navigate(inRoom('/heard', projectStore.store.getState().id));
  });
  useHotkeys('c', () => {
    if (free()) engine.setTransport({ metronome: !engine.store.getState().transportSettings.metronome });
  });
  useHotkeys('space', (event) => {
    const target = event.target as HTMLElement;
    if (!free() || target.closest('button, a, summary, select, [role="slider"], [role="menuitem"]')) return;
    event.preventDefault();
    engine.toggle();
  });
  useHotkeys('home', () => {
    if (free()) engine.seek(0);
  });
  useHotkeys(
    'slash',
    (event) => {
      if (!free()) return;
      event.preventDefault();
      const field = document.querySelector<HTMLInputElement>('[data-query]');
      if (field) field.focus();
      else void navigate(inRoom('/', projectStore.store.getState().id));
    },
    { useKey: false },
  );
  useHotkeys('mod+z', (event) => {
    event.preventDefault();
    projectStore.undo();
  });
  useHotkeys('mod+shift+z, mod+y', (event) => {
    event.preventDefault();
    projectStore.redo();
  });
  useHotkeys('escape', () => {
    if (free()) engine.audition.stop();
  });
}
