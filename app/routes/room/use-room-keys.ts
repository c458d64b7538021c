import { useEffect, useRef } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { useNavigate } from 'react-router';
import type { AudioEngine } from '~/audio/engine';
import type { ProjectDesk } from '~/ui/project-store';

/** Keys that work on every page. Fields and open dialogs keep their own. */
export function useRoomKeys(engine: AudioEngine, desk: ProjectDesk, onHelp: () => void): void {
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
  const free = () => document.querySelector('dialog[open]') === null;
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
      else void navigate('/');
    },
    { useKey: false },
  );
  useHotkeys('mod+z', (event) => {
    event.preventDefault();
    desk.undo();
  });
  useHotkeys('mod+shift+z, mod+y', (event) => {
    event.preventDefault();
    desk.redo();
  });
  useHotkeys('escape', () => {
    if (free()) engine.stopAudition();
  });
}
