import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { useState, type ReactNode } from "react";
import { Button } from "./Button";
import { t } from "../texts/ui";

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
      <div className="fixed inset-0 flex items-center justify-center md:p-4">
        <DialogPanel
          onInput={() => setTyped(true)}
          className={`w-full overflow-auto bg-panel p-5 shadow-2xl max-md:h-dvh max-md:px-3.5 md:max-h-[92dvh] md:rounded-lg md:border md:border-hair ${wide ? "md:max-w-3xl" : "md:max-w-xl"}`}
        >
          <div className="mb-2 flex items-start justify-between gap-3">
            <DialogTitle className="text-[18px] font-[680] wrap-anywhere">{title}</DialogTitle>
            <Button look="quiet" className="shrink-0 md:hidden" onClick={leave}>
              {t("ui.close")}
            </Button>
          </div>
          {children}
          {asking && (
            <div
              role="alert"
              className="sticky bottom-0 mt-3 flex flex-wrap items-center gap-2 rounded-md border border-marigold-line bg-marigold-soft px-3 py-2"
            >
              <b className="mr-auto font-[620]">{t("ui.discardWhatYouTyped")}</b>
              <Button autoFocus onClick={() => setAsking(false)}>
                {t("ui.keepEditing")}
              </Button>
              <Button onClick={onClose}>{t("ui.discard")}</Button>
            </div>
          )}
        </DialogPanel>
      </div>
    </Dialog>
  );
}
