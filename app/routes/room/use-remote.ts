import { useEffect } from 'react';
import type { AudioEngine } from '~/audio/engine';
import { toast } from '~/ui/toast';
import type { LiveEvent } from '~contracts/live-event';
import type { RemoteCommand } from '~contracts/remote';
import { api } from '~/ui/api';
import { ask, withForm } from '~/ui/ask';
import { live } from '~/ui/live';
import { HeardTickets } from './heard-tickets';
import { roomState } from './room-state';

/** So long after its last command a remote is still told how the room is. */
const attentiveMs = 30 * 60_000,
  restMs = 250;

function obey(engine: AudioEngine, tickets: HeardTickets, command: RemoteCommand): void {
  if (command === 'keep') {
    if (engine.audition.shortlist.keepCandidate()) toast('Kept.');
    else toast.error('The shortlist is full.');
  } else if (command.startsWith('keep-')) {
    const request = tickets.requestOf(Number(command.slice(5)));
    // Blind, the name of what was kept would tell what sounds.
    const name = engine.audition.shortlist.isBlind ? '' : ` ${request?.row.title}`;
    if (request && engine.audition.shortlist.keep(request)) toast(`Kept${name}.`);
    else if (request) toast.error('The shortlist is full.');
  } else if (command === 'skip' || command === 'back') engine.audition.handsFree.skip(command === 'skip' ? 1 : -1);
  else if (command === 'play') engine.toggle();
  else if (command === 'silence') engine.audition.stop();
  else if (command === 'hands-free') void engine.audition.handsFree.set(engine.store.getState().handsFree ? null : 4);
  else if (command === 'blind') engine.audition.shortlist.setBlind(!engine.audition.shortlist.isBlind);
  else if (command.startsWith('digit-')) engine.audition.shortlist.hearDigit(Number(command.slice(6)));
}

/** Obeys the remotes of the same person, and tells them how the room is. */
export function useRemote(engine: AudioEngine, personId: number): void {
  useEffect(() => {
    let heardAt = -Infinity,
      timer: ReturnType<typeof setTimeout> | null = null,
      told = '';
    const tickets = new HeardTickets();
    const tell = () => {
      timer = null;
      const state = engine.store.getState(),
        room = JSON.stringify(roomState(state, tickets.ticketOf(state.candidate)));
      if (room === told) return;
      told = room;
      void ask(api.remote, withForm('post', { room })).then(({ ok }) => {
        if (!ok) told = '';
      });
    };
    const soon = () => {
      if (performance.now() - heardAt < attentiveMs) timer ??= setTimeout(tell, restMs);
    };
    const listen = (event: LiveEvent) => {
      if (event.kind !== 'remote-command' || event.personId !== personId) return;
      const { command } = event;
      heardAt = performance.now();
      if (command === 'hello') told = '';
      else obey(engine, tickets, command);
      soon();
    };
    const deaf = live.listen(listen),
      unsubscribe = engine.store.subscribe(soon);
    return () => {
      deaf();
      unsubscribe();
      if (timer) clearTimeout(timer);
    };
  }, [engine, personId]);
}
