import type { Voice } from './voice';
import { clap, closedHat, crash, kick, openHat, ride, rim, snare, tom } from './voices/drums';
import { conga, metalBell, shaker, tambourine, woodblock } from './voices/percussion';

export interface Piece {
  readonly voice: Voice;
  readonly hz: number;
  readonly gain: number;
  readonly pan: number;
}
const piece = (voice: Voice, hz: number, gain: number, pan: number): Piece => ({ voice, hz, gain, pan });

/** The kit by General MIDI percussion key (MIDI Association RP-003), as far as our drums go. */
export const kit: Readonly<Record<number, Piece>> = {
  35: piece(kick, 45, 1, 0),
  36: piece(kick, 50, 1, 0),
  37: piece(rim, 520, 0.6, 0.1),
  38: piece(snare, 190, 0.9, 0.05),
  39: piece(clap, 1200, 0.7, -0.1),
  40: piece(snare, 220, 0.9, 0.05),
  41: piece(tom, 75, 0.8, 0.35),
  42: piece(closedHat, 310, 0.45, 0.25),
  43: piece(tom, 90, 0.8, 0.3),
  44: piece(closedHat, 310, 0.35, 0.25),
  45: piece(tom, 110, 0.8, 0.1),
  46: piece(openHat, 310, 0.45, 0.25),
  47: piece(tom, 130, 0.8, -0.1),
  48: piece(tom, 160, 0.8, -0.3),
  49: piece(crash, 310, 0.5, -0.3),
  50: piece(tom, 180, 0.8, -0.35),
  51: piece(ride, 330, 0.4, -0.3),
  54: piece(tambourine, 6000, 0.6, -0.2),
  56: piece(metalBell, 560, 0.5, -0.15),
  60: piece(conga, 330, 0.7, -0.2),
  61: piece(conga, 250, 0.7, 0.2),
  62: piece(conga, 300, 0.6, -0.25),
  63: piece(conga, 230, 0.7, -0.2),
  64: piece(conga, 170, 0.7, 0.2),
  67: piece(metalBell, 900, 0.5, 0.3),
  68: piece(metalBell, 680, 0.5, 0.3),
  69: piece(shaker, 6000, 0.6, 0.3),
  70: piece(shaker, 7000, 0.6, -0.3),
  75: piece(woodblock, 2400, 0.5, 0.2),
  76: piece(woodblock, 900, 0.5, -0.2),
  77: piece(woodblock, 640, 0.5, 0.2),
  82: piece(shaker, 5500, 0.6, 0.25),
};
