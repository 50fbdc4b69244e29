import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { Button } from "../ui/Button";

const KEYS: [string, [string, string][]][] = [
  [
    "Everywhere",
    [
      ["Ctrl K", "find a list, class, person or place"],
      ["/", "the same"],
      ["?", "these keys"],
      ["Esc", "close what is open"],
    ],
  ],
  [
    "Board",
    [
      ["↑ ↓ ← →", "go through the grid"],
      ["↵", "open the list"],
      ["W", "write to the list"],
    ],
  ],
  [
    "Changes",
    [
      ["J", "next change"],
      ["K", "the one before"],
      ["A", "accept"],
      ["H", "hold"],
      ["C", "the sheet is wrong: correct it"],
      ["O", "open or close a class"],
      ["S", "to the button that brings the lists in step"],
    ],
  ],
  [
    "Sources",
    [
      ["N", "next faulty cell"],
      ["P", "the one before"],
      ["↵", "save the correction"],
    ],
  ],
  [
    "Additions",
    [
      ["↵", "write in the cell, then go down"],
      ["Tab", "across"],
      ["Ctrl D", "fill down"],
      ["Ctrl Z", "undo"],
      ["Space", "approve the row"],
    ],
  ],
  ["Writing", [["Ctrl ↵", "send"]]],
];

/** The keys, all in one place. */
export function KeysHelp({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} className="relative z-40">
      <div className="fixed inset-0 bg-ink/30" aria-hidden="true" />
      <div className="fixed inset-0 flex items-center justify-center p-4">
        <DialogPanel className="w-full max-w-lg rounded-lg border border-hair bg-panel p-6 shadow-2xl">
          <DialogTitle className="mb-3 text-[18px] font-[680]">Keys</DialogTitle>
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
              Close
            </Button>
          </div>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
