import { useEffect, useState } from 'react';
import { CircleCheck, CircleHelp, OctagonAlert } from 'lucide-react';
import { standsUnder, type UsedLoop } from '~contracts/used-loop';
import { clearanceOf, releaseWords, type Clearance } from '~core/library/licence';
import { api } from '~/ui/api';
import { ask } from '~/ui/ask';
import { Popover } from '~/ui/popover';
import { useProject } from '~/ui/project-store';
import { RoomLink } from '~/ui/room-link';

/** The loops that are heard in the piece, and whether it may come out with them: what has to be looked at first. */
export function UsedLoops({ projectId }: { projectId: number }) {
  return (
    <Popover label="Used loops" hint="Used loops, and which are cleared for release">
      <Used projectId={projectId} />
    </Popover>
  );
}

interface Line {
  readonly loop: UsedLoop;
  readonly clearance: Clearance;
}

/** Forbidden first, then what nothing is known of. */
const weight = ({ isClear }: Clearance): number => (isClear === false ? 0 : isClear === null ? 1 : 2);

function Used({ projectId }: { projectId: number }) {
  const [used, setUsed] = useState<readonly UsedLoop[] | null>(null),
    [wrong, setWrong] = useState<string | null>(null),
    // Told of what is kept on the server, and told anew when that is another.
    kept = useProject((state) => (state.save === 'saving' ? null : state.project));
  useEffect(() => {
    if (kept === null) return;
    let gone = false;
    void ask<{ used: readonly UsedLoop[] }>(api.projectUsed(projectId)).then((said) => {
      if (gone) return;
      setWrong(said.ok ? null : said.wrong);
      if (said.ok) setUsed(said.answer.used);
    });
    return () => {
      gone = true;
    };
  }, [projectId, kept]);
  if (wrong !== null)
    return (
      <p className="text-error" role="alert">
        {wrong}
      </p>
    );
  if (used === null) return <p className="quiet">Reading …</p>;
  const lines = used
    .map((loop): Line => ({ loop, clearance: clearanceOf(standsUnder(loop)) }))
    .sort((a, b) => weight(a.clearance) - weight(b.clearance) || a.loop.title.localeCompare(b.loop.title));
  return (
    <>
      <h2>Used loops</h2>
      {lines.length === 0 ? (
        <p className="quiet mt-1">Nothing is heard yet. Loops that are placed stand here with their licences.</p>
      ) : (
        <>
          <p className="mt-1">{summaryOf(lines)}</p>
          <ul className="mt-2 grid max-h-[26rem] gap-2 overflow-y-auto">
            {lines.map((line) => (
              <UsedLine key={line.loop.loopId} {...line} />
            ))}
          </ul>
          <p className="quiet mt-2 text-[0.82rem]">
            Read from the words of the licences; they are what counts.{' '}
            <a className="link" href={`${api.projectUsed(projectId)}?as=text`}>
              The list as text
            </a>
          </p>
        </>
      )}
    </>
  );
}

/** How many may come out, and how many not. */
function summaryOf(lines: readonly Line[]): string {
  const count = (which: (clearance: Clearance) => boolean) => lines.filter(({ clearance }) => which(clearance)).length,
    forbidden = count(({ isClear }) => isClear === false),
    unknown = count(({ isClear }) => isClear === null),
    credit = count(({ wantsCredit }) => wantsCredit),
    parts = [
      ...(forbidden > 0 ? [`${forbidden} not cleared for release`] : []),
      ...(unknown > 0 ? [`${unknown} to be asked about`] : []),
      ...(forbidden + unknown === 0 ? ['all cleared for release'] : []),
      ...(credit > 0 ? [`${credit} ${credit === 1 ? 'wants' : 'want'} credit`] : []),
    ];
  return `${lines.length} ${lines.length === 1 ? 'loop' : 'loops'}: ${parts.join(', ')}.`;
}

const marks = {
  no: { Icon: OctagonAlert, ink: 'text-error' },
  unknown: { Icon: CircleHelp, ink: 'text-warning' },
  yes: { Icon: CircleCheck, ink: 'text-success' },
} as const;

function UsedLine({ loop, clearance }: Line) {
  const { Icon, ink } = marks[clearance.isClear === false ? 'no' : clearance.isClear === null ? 'unknown' : 'yes'];
  return (
    <li className="flex min-w-0 gap-2" data-used={loop.loopId}>
      <Icon className={`mt-0.5 size-4 shrink-0 ${ink}`} aria-label={releaseWords(clearance)} />
      <div className="min-w-0">
        <p className="truncate">
          <RoomLink to={`/loops/${loop.loopId}`} className="font-semibold hover:underline">
            {loop.title}
          </RoomLink>
          <span className="quiet"> · {loop.tracks.join(', ')}</span>
        </p>
        <p className="quiet truncate" title={loop.licence}>
          {loop.origin ? `${loop.origin.author}, ${loop.origin.sourceName}` : loop.packName}: {loop.licence || 'licence not stated'}
        </p>
        {(clearance.words || clearance.wantsCredit) && (
          <p>{[clearance.words, clearance.wantsCredit ? 'wants credit' : ''].filter(Boolean).join(', ')}</p>
        )}
        {loop.madeOf.length > 0 && (
          <p className="quiet truncate">
            made of {loop.madeOf.map(({ title, licence }) => `${title} (${licence || 'licence not stated'})`).join('; ')}
          </p>
        )}
      </div>
    </li>
  );
}
