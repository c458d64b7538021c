import { useRef, useState } from 'react';
import * as Menu from '@radix-ui/react-dropdown-menu';
import * as sections from '~core/arrangement/acts/sections';
import { clipsInSection } from '~core/arrangement/acts/shaping';
import { snapped } from '~core/arrangement/grid';
import type { Edit } from '~core/arrangement/edit';
import { heardTracks, type Project, type Section } from '~core/arrangement/tree';
import { beatsPerBar } from '~core/units/time';
import { useEngine } from '~/audio/hooks';
import { newId } from '~/ui/new-id';
import { useProjectStore } from '~/ui/project-store';
import { toast } from '~/ui/toast';
import { BuildDialog } from './build-dialog';
import { askToGiveBack } from './give-back';
import { NameDialog } from './name-dialog';
import { ResizeDialog } from './resize-dialog';

const leastDragPixels = 5;

const item = 'cursor-pointer rounded-sm px-2 py-1 outline-none data-highlighted:bg-base-300';

/** A section on the ruler: what can be done with it and all that lies in it. */
export function SectionMenu({
  project,
  section,
  beatPixels,
  stepBeats,
  onChooseClips,
}: {
  project: Project;
  section: Section;
  beatPixels: number;
  stepBeats: number | null;
  onChooseClips: (clipIds: string[]) => void;
}) {
  const store = useProjectStore(),
    engine = useEngine(),
    [dialog, setDialog] = useState<'resize' | 'in' | 'out' | 'name' | null>(null),
    [edge, setEdge] = useState<{ readonly fromX: number; readonly by: number } | null>(null),
    [isOpen, setOpen] = useState(false),
    chosenClips = useRef<string[]>([]),
    [drag, setDrag] = useState<{ readonly fromX: number; readonly byX: number } | null>(null),
    bar = beatsPerBar(project.meter),
    first = section.startBeat / bar + 1,
    last = (section.startBeat + section.lengthBeats) / bar;
  const make = (edit: Edit | null, otherwise: string) => {
    const wrong = edit ? store.edit(edit) : otherwise;
    if (wrong) toast(wrong);
  };
  /** The line between sections at which it would begin, or end, if it were let go here; null where it would stay. */
  const dropLine = (byX: number): number | null => {
    if (Math.abs(byX) < leastDragPixels) return null;
    const end = section.startBeat + section.lengthBeats,
      edgeBeat = (byX > 0 ? end : section.startBeat) + byX / beatPixels,
      lines = project.sections
        .filter(({ id }) => id !== section.id)
        .flatMap(({ startBeat, lengthBeats }) => [startBeat, startBeat + lengthBeats])
        .filter((line) => (byX > 0 ? line > end : line < section.startBeat)),
      near = lines.reduce((best, line) => (Math.abs(line - edgeBeat) < Math.abs(best - edgeBeat) ? line : best), lines[0] ?? NaN);
    // It stays where that is nearer.
    return Math.abs(near - edgeBeat) < Math.abs(byX) / beatPixels ? near : null;
  };
  const line = drag && dropLine(drag.byX);
  return (
    <>
      {line !== null && (
        <span
          className="pointer-events-none absolute inset-y-0 z-10 w-1 bg-primary"
          style={{ left: line * beatPixels - 2 }}
          aria-hidden="true"
        />
      )}
      <Menu.Root modal={false} open={isOpen} onOpenChange={setOpen}>
        <Menu.Trigger
          className={`absolute top-0.5 h-4 touch-none truncate rounded-sm bg-base-300 px-1.5 text-left text-[0.79rem] font-semibold leading-4 hover:bg-neutral hover:text-neutral-content ${drag?.byX ? 'z-10 cursor-grabbing opacity-70' : ''}`}
          style={{
            left: section.startBeat * beatPixels + 1 + (drag?.byX ?? 0),
            width: Math.max(6, (section.lengthBeats + (edge?.by ?? 0)) * beatPixels - 2),
          }}
          aria-label={`${section.name}, section of bars ${first} to ${last}`}
          title={`${section.name}: click for what can be done with it, drag it to another place`}
          onClick={(event) => event.stopPropagation()}
          onPointerDown={(event) => {
            if (event.button !== 0) return;
            // The menu opens when it is let go where it was.
            event.preventDefault();
            event.stopPropagation();
            event.currentTarget.focus();
            event.currentTarget.setPointerCapture(event.pointerId);
            setDrag({ fromX: event.clientX, byX: 0 });
          }}
          onPointerMove={(event) => {
            if (!drag) return;
            const byX = event.clientX - drag.fromX;
            setDrag({ ...drag, byX: Math.abs(byX) < leastDragPixels ? 0 : byX });
          }}
          onPointerUp={() => {
            if (!drag) return;
            setDrag(null);
            if (drag.byX === 0) setOpen(!isOpen);
            else if (line !== null) make(sections.moveSection(project, section.id, line, newId), 'It lies there.');
          }}
          onPointerCancel={() => setDrag(null)}
        >
          {section.name}
        </Menu.Trigger>
        <span
          className="absolute top-0.5 z-1 h-4 w-2 cursor-ew-resize"
          style={{ left: (section.startBeat + section.lengthBeats + (edge?.by ?? 0)) * beatPixels - 7 }}
          title="Drag: where the section ends"
          aria-hidden="true"
          onPointerDown={(event) => {
            event.stopPropagation();
            event.currentTarget.setPointerCapture(event.pointerId);
            setEdge({ fromX: event.clientX, by: 0 });
          }}
          onPointerMove={(event) => {
            if (!edge) return;
            const end = section.startBeat + section.lengthBeats,
              to = snapped(end + (event.clientX - edge.fromX) / beatPixels, event.altKey ? null : (stepBeats ?? 1));
            setEdge({ ...edge, by: Math.max(1 - section.lengthBeats, to - end) });
          }}
          onPointerUp={() => {
            if (edge && edge.by !== 0)
              make({ kind: 'set-section', sectionId: section.id, changes: { lengthBeats: section.lengthBeats + edge.by } }, '');
            setEdge(null);
          }}
          onPointerCancel={() => setEdge(null)}
        />
        <Menu.Portal>
          <Menu.Content
            align="start"
            className="panel z-30 min-w-56 bg-base-100 p-1 shadow-sm"
            onClick={(event) => event.stopPropagation()}
            onCloseAutoFocus={(event) => {
              const [first] = chosenClips.current;
              chosenClips.current = [];
              const box = first === undefined ? null : document.querySelector<HTMLElement>(`[data-clip="${CSS.escape(first)}"]`);
              // The keys of clips are those that are wanted next.
              if (!box) return;
              event.preventDefault();
              box.focus();
            }}
          >
            <Menu.Item
              className={item}
              onSelect={() => engine.setRange({ startBeat: section.startBeat, endBeat: section.startBeat + section.lengthBeats })}
            >
              Hear it round and round
            </Menu.Item>
            <Menu.Item className={item} onSelect={() => setDialog('name')}>
              Call it otherwise …
            </Menu.Item>
            <Menu.Item
              className={item}
              onSelect={() => {
                const [first] = (chosenClips.current = clipsInSection(project, section.id));
                if (first !== undefined) onChooseClips(chosenClips.current);
              }}
            >
              Choose its clips
            </Menu.Item>
            <Menu.Item className={item} onSelect={() => make(sections.repeatSection(project, section.id, newId), 'It is gone.')}>
              Again, behind itself
            </Menu.Item>
            <Menu.Item
              className={item}
              onSelect={() => make(sections.swapSection(project, section.id, -1, newId), 'There is no section right before it.')}
            >
              Earlier, in the place of the one before
            </Menu.Item>
            <Menu.Item
              className={item}
              onSelect={() => make(sections.swapSection(project, section.id, 1, newId), 'There is no section right behind it.')}
            >
              Later, in the place of the next one
            </Menu.Item>
            <Menu.Item
              className={item}
              onSelect={() => make(sections.insertBeats(project, section.startBeat, 4 * bar, newId), 'It is gone.')}
            >
              Four empty bars before it
            </Menu.Item>
            <Menu.Item className={item} onSelect={() => setDialog('resize')}>
              Make it longer or shorter …
            </Menu.Item>
            <Menu.Separator className="my-1 h-px bg-base-300" />
            <Menu.Item className={item} onSelect={() => setDialog('in')}>
              Build it up …
            </Menu.Item>
            <Menu.Item className={item} onSelect={() => setDialog('out')}>
              Thin it out …
            </Menu.Item>
            <Menu.Separator className="my-1 h-px bg-base-300" />
            <Menu.Item
              className={item}
              onSelect={() =>
                askToGiveBack({
                  name: `${project.name} ${section.name}`.slice(0, 120),
                  trackIds: heardTracks(project).map(({ id }) => id),
                  clipIds: null,
                  fromBeat: section.startBeat,
                  toBeat: section.startBeat + section.lengthBeats,
                })
              }
            >
              Give it back to the library …
            </Menu.Item>
            <Menu.Item className={item} onSelect={() => make(sections.takeOutSection(project, section.id, true, newId), 'It is gone.')}>
              Take it out, what follows moves up
            </Menu.Item>
            <Menu.Item className={item} onSelect={() => make(sections.takeOutSection(project, section.id, false, newId), 'It is gone.')}>
              Take it out, its bars stay empty
            </Menu.Item>
          </Menu.Content>
        </Menu.Portal>
      </Menu.Root>
      {dialog === 'name' && <NameDialog section={section} onClose={() => setDialog(null)} onMake={make} />}
      {dialog === 'resize' && <ResizeDialog project={project} section={section} onClose={() => setDialog(null)} onMake={make} />}
      {(dialog === 'in' || dialog === 'out') && (
        <BuildDialog project={project} section={section} way={dialog} onClose={() => setDialog(null)} onMake={make} />
      )}
    </>
  );
}
