import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import type { ReactNode } from "react";

/** A dialog in the middle of the page, with its title. */
export function Modal({
  title,
  onClose,
  children,
  wide = false,
}: {
  title: string;
  onClose: () => void;
  children: ReactNode;
  wide?: boolean;
}) {
  return (
    <Dialog open onClose={onClose} className="relative z-40">
      <div className="fixed inset-0 bg-ink/30" aria-hidden="true" />
      <div className="fixed inset-0 flex items-center justify-center p-4">
        <DialogPanel
          className={`max-h-[92dvh] w-full overflow-auto rounded-lg border border-hair bg-panel p-5 shadow-2xl ${wide ? "max-w-3xl" : "max-w-xl"}`}
        >
          <DialogTitle className="mb-2 text-[18px] font-[680]">{title}</DialogTitle>
          {children}
        </DialogPanel>
      </div>
    </Dialog>
  );
}
