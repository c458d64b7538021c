import type { ReactNode } from 'react';
import * as Radix from '@radix-ui/react-popover';

/** A button that opens a panel beside it: focus goes in, Escape and a click elsewhere close it, and focus comes back. */
export function Popover({ label, hint = label, children }: { label: string; hint?: string; children: ReactNode }) {
  return (
    <Radix.Root>
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
