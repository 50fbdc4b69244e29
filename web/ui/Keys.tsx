import { useEffect, useEffectEvent } from "react";

/** Calls back for single keys while nobody types into a field and no dialog is open. */
export function useKeys(keys: Record<string, (() => void) | undefined>): void {
  const pressed = useEffectEvent((event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return;
    const target = event.target instanceof HTMLElement ? event.target : undefined;
    if (
      target !== undefined &&
      ((/^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) &&
        !(target instanceof HTMLInputElement && target.type === "checkbox")) ||
        target.isContentEditable)
    )
      return;
    if (event.key === "Enter" && target?.closest("button, a, summary, [role=option]") != null)
      return;
    if (document.querySelector("[role=dialog]") !== null) return;
    const handle = keys[event.key.length === 1 ? event.key.toLowerCase() : event.key];
    if (handle === undefined) return;
    event.preventDefault();
    handle();
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => pressed(event);
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, []);
}
