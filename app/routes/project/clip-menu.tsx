import { Fragment } from 'react';
import * as Menu from '@radix-ui/react-dropdown-menu';
import { clipActs, type ClipDialog } from './clip-keys';
import { menuItem, menuPanel } from './track-menu';
import type { ClipActs } from './use-acts';

/** Where a clip's menu opens, in pixels of the window. */
export interface MenuPlace {
  readonly clipId: string;
  readonly x: number;
  readonly y: number;
}

/** All that can be done to the chosen clips, each with its keys. */
export function ClipMenu({
  place: { clipId, x, y },
  acts,
  onOpen,
  onClose,
}: {
  place: MenuPlace;
  acts: ClipActs;
  onOpen: (dialog: ClipDialog) => void;
  onClose: () => void;
}) {
  return (
    <Menu.Root open modal={false} onOpenChange={(isOpen) => !isOpen && onClose()}>
      <Menu.Trigger className="fixed size-0" style={{ left: x, top: y }} tabIndex={-1} aria-hidden="true" />
      <Menu.Portal>
        <Menu.Content
          align="start"
          collisionPadding={8}
          className={`${menuPanel} max-h-[80vh] overflow-y-auto`}
          aria-label="What can be done to what is chosen"
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            document.querySelector<HTMLElement>(`[data-clip="${CSS.escape(clipId)}"]`)?.focus();
          }}
        >
          {clipActs.map(({ words, keys, run, begins }) => (
            <Fragment key={words}>
              {begins && <Menu.Separator className="my-1 h-px bg-base-300" />}
              <Menu.Item className={menuItem} onSelect={() => run(acts, onOpen)}>
                {words}
                {keys && <kbd className="kbd kbd-xs">{keys}</kbd>}
              </Menu.Item>
            </Fragment>
          ))}
        </Menu.Content>
      </Menu.Portal>
    </Menu.Root>
  );
}
