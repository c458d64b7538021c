import { Outlet } from 'react-router';
import { RoomLink } from '~/ui/room-link';
import { Trouble } from '~/ui/trouble';
import type { Route } from './+types/route';

/** Each page in the room. One that goes wrong says so in its own place: the room stays as it is, and what sounds goes on. */
export default function Page() {
  return <Outlet />;
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return (
    <Trouble error={error}>
      <RoomLink className="link link-primary" to="/">
        Back to the library
      </RoomLink>
    </Trouble>
  );
}
