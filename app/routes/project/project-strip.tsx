import { projectEndBeat, type Project } from '~core/arrangement/tree';

const rowHeight = 5;

/** A project as a small picture: a row a track, a block a clip; those in `apart` stand out. */
export function ProjectStrip({
  project,
  apart,
  endBeat,
  label,
}: {
  project: Project;
  apart: ReadonlySet<string>;
  endBeat?: number;
  label: string;
}) {
  const width = Math.max(1, endBeat ?? projectEndBeat(project)),
    tracks = project.tracks.filter(({ setAside }) => !setAside),
    height = Math.max(1, tracks.length) * rowHeight;
  return (
    <svg
      role="img"
      aria-label={label}
      viewBox={`0 0 ${width} ${height}`}
      preserveAspectRatio="none"
      className="w-full rounded-sm border border-base-300 bg-base-200"
      style={{ height: Math.min(120, Math.max(24, tracks.length * 9)) }}
    >
      {tracks.flatMap((track, row) =>
        track.clips.map((clip) => (
          <rect
            key={clip.id}
            x={clip.startBeat}
            y={row * rowHeight + 0.6}
            width={Math.max(0.3, clip.lengthBeats - 0.2)}
            height={rowHeight - 1.2}
            fill={apart.has(clip.id) ? 'var(--color-primary)' : 'var(--wave-faint)'}
          />
        )),
      )}
    </svg>
  );
}
