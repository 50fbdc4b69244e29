import { useEffect, useRef } from "react";
import type { AddFiles } from "./FilesField";

/** Takes files that are pasted anywhere on the page, as long as nobody is typing and no dialog is open. */
export function usePastedFiles(isOpen: boolean, onAdd: AddFiles): void {
  const latest = useRef(onAdd);
  useEffect(() => {
    latest.current = onAdd;
  });
  useEffect(() => {
    if (!isOpen) return;
    const take = (event: ClipboardEvent): void => {
      const files = [...(event.clipboardData?.files ?? [])];
      const isTyping =
        document.querySelector("[role=dialog]") !== null ||
        (event.target instanceof Element &&
          event.target.closest("input, textarea, [contenteditable]") !== null);
      if (files.length === 0 || isTyping) return;
      event.preventDefault();
      latest.current(files, () => "");
    };
    document.addEventListener("paste", take);
    return () => document.removeEventListener("paste", take);
  }, [isOpen]);
}
