import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';

/** The one kind of sheet that lies over a view: for finding and for reading, never for work. */
export function Sheet({
  title,
  className,
  onClose,
  children,
}: {
  title: string;
  className: string;
  onClose: () => void;
  children: ReactNode;
}) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="sheet-over">
          <Dialog.Content className={className} aria-describedby={undefined}>
            <Dialog.Title className="sr-only">{title}</Dialog.Title>
            {children}
          </Dialog.Content>
        </Dialog.Overlay>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
