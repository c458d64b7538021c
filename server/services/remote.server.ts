import type { RemoteCommand, RoomState } from '~contracts/remote';
import { announce } from '../events/announce.server';

/** Passes a command on to the rooms of a person. */
export const sendCommand = (personId: number, command: RemoteCommand): Promise<void> =>
  announce({ kind: 'remote-command', personId, command });

/** Tells the remotes of a person how the room is. */
export const tellState = (personId: number, room: RoomState): Promise<void> => announce({ kind: 'remote-room', personId, room });
