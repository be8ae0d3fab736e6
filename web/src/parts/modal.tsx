import { clsx } from "clsx";
import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

interface ModalProps {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  /** Near the top, where what it lists may grow and shrink, instead of in the middle. */
  atTop?: boolean;
  children: ReactNode;
}

/** A dialog over the page, with its title and a way out. */
export function Modal({ open, onOpenChange, title, atTop = false, children }: ModalProps) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/50" />
        <Dialog.Content
          aria-describedby={undefined}
          className={clsx(
            "fixed left-1/2 max-h-[92dvh] w-[min(34rem,94vw)] -translate-x-1/2 overflow-y-auto rounded-2xl border border-line bg-sheet p-5",
            atTop ? "top-[6dvh]" : "top-1/2 -translate-y-1/2",
          )}
        >
          <div className="mb-4 flex items-start justify-between gap-4">
            <Dialog.Title className="text-2xl">{title}</Dialog.Title>
            <Dialog.Close className="button w-11 px-0" aria-label="Close">
              <X size={20} aria-hidden="true" />
            </Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
