import { useOthersHere } from './use-presence';

/** Who else has the project open. */
export function Here() {
  const names = useOthersHere();
  return (
    <span role="status" aria-label="Also here" className="flex items-center gap-1">
      {names.length > 0 && <span className="caps">also here</span>}
      {names.slice(0, 4).map((name) => (
        <span key={name} className="badge badge-sm badge-accent" title={`${name} has this project open`}>
          {name}
        </span>
      ))}
      {names.length > 4 && <span className="quiet">and {names.length - 4} more</span>}
    </span>
  );
}
