import type { TakeLine } from '~contracts/outside';
import { RoomLink } from '~/ui/room-link';

const wordsOf = ({ state, wanted, received, done, failed, duplicate }: TakeLine): string =>
  state === 'receiving'
    ? `fetching, ${received} of ${wanted}`
    : state === 'done'
      ? [`${done} in the library`, duplicate && `${duplicate} were here already`, failed && `${failed} did not come`]
          .filter(Boolean)
          .join(', ')
      : state === 'cancelled'
        ? 'stopped'
        : `being listened to, ${done + failed + duplicate} of ${wanted}`;

/** What one took in the last day, and how far it is. */
export function Takes({ takes }: { takes: readonly TakeLine[] }) {
  if (takes.length === 0) return null;
  return (
    <section className="panel p-4" aria-labelledby="takes-title">
      <h2 id="takes-title">Taken today</h2>
      <ul className="mt-2 flex flex-col gap-2" role="status" aria-live="polite">
        {takes.map((take) => (
          <li key={take.batchId}>
            {take.packId === null ? (
              <span className="font-medium">{take.packName}</span>
            ) : (
              <RoomLink to={`/?pack=${take.packId}`} className="link font-medium">
                {take.packName}
              </RoomLink>
            )}
            <span className="quiet block">{wordsOf(take)}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
