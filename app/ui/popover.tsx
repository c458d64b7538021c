import type { ReactNode } from 'react';
import * as Radix from '@radix-ui/react-popover';

interface PopoverProps {
  readonly label: string;
  readonly hint?: string;
  readonly onClose?: () => void;
  readonly children: ReactNode;
}

/** A button that opens a panel beside it: focus goes in, Escape and a click elsewhere close it, and focus comes back. */
export function Popover({ label, hint = label, onClose, children }: PopoverProps) {
  return (
    <Radix.Root onOpenChange={(isOpen) => isOpen || onClose?.()}>
      <Radix.Trigger className="btn btn-sm" aria-label={hint} title={hint === label ? undefined : hint}>
        {label}
      </Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          aria-label={hint}
          align="start"
          sideOffset={4}
          collisionPadding={8}
          className="panel z-30 w-96 bg-base-100 p-3 shadow-sm"
          // The room's keys are not for what is typed here.
          onKeyDown={(event) => event.stopPropagation()}
        >
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
