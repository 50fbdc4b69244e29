import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { useState, type ReactNode } from "react";
import { Button } from "./Button";

/** A dialog in the middle of the page, with its title. Esc, or a press beside it, asks before what was typed is lost. */
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
  const [typed, setTyped] = useState(false);
  const [asking, setAsking] = useState(false);
  const leave = (): void => {
    if (!typed) onClose();
    else setAsking((before) => !before);
  };
  return (
    <Dialog open onClose={leave} className="relative z-40">
      <div className="fixed inset-0 bg-ink/30" aria-hidden="true" />
      <div className="fixed inset-0 flex items-center justify-center p-4">
        <DialogPanel
          onInput={() => setTyped(true)}
          className={`max-h-[92dvh] w-full overflow-auto rounded-lg border border-hair bg-panel p-5 shadow-2xl ${wide ? "max-w-3xl" : "max-w-xl"}`}
        >
          <DialogTitle className="mb-2 text-[18px] font-[680]">{title}</DialogTitle>
          {children}
          {asking && (
            <div
              role="alert"
              className="sticky bottom-0 mt-3 flex flex-wrap items-center gap-2 rounded-md border border-marigold-line bg-marigold-soft px-3 py-2"
            >
              <b className="mr-auto font-[620]">Discard what you typed?</b>
              <Button autoFocus onClick={() => setAsking(false)}>
                Keep editing
              </Button>
              <Button onClick={onClose}>Discard</Button>
            </div>
          )}
        </DialogPanel>
      </div>
    </Dialog>
  );
}
