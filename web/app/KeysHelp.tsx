import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { Button } from "../ui/Button";
import { t } from "../texts/app";

const KEYS: [string, [string, string][]][] = [
  [
    t("app.everywhere"),
    [
      [t("app.ctrlK"), t("app.findAListClassPerson")],
      ["/", t("app.theSame")],
      ["?", t("app.theseKeys")],
      [t("app.esc"), t("app.closeWhatIsOpen")],
    ],
  ],
  [
    t("app.board"),
    [
      ["↑ ↓ ← →", t("app.goThroughTheGrid")],
      ["↵", t("app.openTheList")],
      ["W", t("app.writeToTheList")],
    ],
  ],
  [
    t("app.changes"),
    [
      ["J", t("app.nextChange")],
      ["K", t("app.theOneBefore")],
      ["A", t("app.accept")],
      ["H", t("app.hold")],
      ["C", t("app.theSheetIsWrongCorrect")],
      ["O", t("app.openOrCloseAClass")],
      ["S", t("app.toTheButtonThatBrings")],
    ],
  ],
  [
    t("app.sources"),
    [
      ["N", t("app.nextFaultyCell")],
      ["P", t("app.theOneBefore")],
      ["↵", t("app.saveTheCorrection")],
    ],
  ],
  [
    t("app.additions"),
    [
      ["↵", t("app.writeInTheCellThen")],
      [t("app.tab"), t("app.across")],
      [t("app.ctrlD"), t("app.fillDown")],
      [t("app.ctrlZ"), t("app.undo")],
      [t("app.space"), t("app.approveTheRow")],
    ],
  ],
  [t("app.writing"), [[t("app.ctrl"), t("app.send")]]],
];

/** The keys, all in one place. */
export function KeysHelp({ onClose }: { onClose: () => void }) {
  return (
    <Dialog open onClose={onClose} className="relative z-40">
      <div className="fixed inset-0 bg-ink/30" aria-hidden="true" />
      <div className="fixed inset-0 flex items-center justify-center p-4">
        <DialogPanel className="w-full max-w-lg rounded-lg border border-hair bg-panel p-6 shadow-2xl">
          <DialogTitle className="mb-3 text-[18px] font-[680]">{t("app.keys")}</DialogTitle>
          <div className="grid sm:grid-cols-2 gap-x-8 gap-y-4">
            {KEYS.map(([place, keys]) => (
              <section key={place}>
                <h2 className="mb-1">{place}</h2>
                <dl className="grid grid-cols-[76px_1fr] gap-y-1">
                  {keys.map(([key, what]) => (
                    <div key={key} className="contents">
                      <dt>
                        <kbd>{key}</kbd>
                      </dt>
                      <dd className="text-ink-2">{what}</dd>
                    </div>
                  ))}
                </dl>
              </section>
            ))}
          </div>
          <div className="mt-5 text-right">
            <Button onClick={onClose} autoFocus>
              {t("app.close")}
            </Button>
          </div>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
