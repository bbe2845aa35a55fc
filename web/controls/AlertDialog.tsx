import { AlertDialog as Radix } from 'radix-ui';
import type { ReactNode } from 'react';
import { buttonClass } from './controls.tsx';

interface AlertDialogProps {
  readonly title: string;
  /** The button that asks. */
  readonly button: ReactNode;
  /** What there is to know before one answers. */
  readonly children: ReactNode;
  /** The ways on; each closes it. */
  readonly answers: readonly (readonly [name: string, onChoose: () => void])[];
  /** What leaves it as it is. */
  readonly leave: string;
}

/** A question that stands over the page until it is answered or left; Esc leaves it, and the button has the focus again. */
export function AlertDialog({ title, button, children, answers, leave }: AlertDialogProps) {
  return (
    <Radix.Root>
      <Radix.Trigger asChild>{button}</Radix.Trigger>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Radix.Content
          className="fixed top-[12vh] left-1/2 z-50 flex max-h-[76vh] w-[min(560px,calc(100vw-24px))] -translate-x-1/2 flex-col gap-3 rounded-md border-[1.3px] border-ink bg-card p-4 text-ink"
          onKeyDown={(event) => event.stopPropagation()}
        >
          <Radix.Title className="text-base font-bold">{title}</Radix.Title>
          <Radix.Description asChild>
            <div className="min-h-0 overflow-y-auto">{children}</div>
          </Radix.Description>
          <div className="flex flex-wrap justify-end gap-2">
            <Radix.Cancel className={buttonClass('quiet')}>{leave}</Radix.Cancel>
            {answers.map(([name, onChoose]) => (
              <Radix.Action key={name} className={buttonClass()} onClick={onChoose}>
                {name}
              </Radix.Action>
            ))}
          </div>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
