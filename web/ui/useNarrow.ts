import { useSyncExternalStore } from "react";

/** The width at which the rail gives way to the bar at the thumb; the style sheet's `md`. */
const NARROW = "(width < 48rem)";

function subscribe(onChange: () => void): () => void {
  const query = window.matchMedia(NARROW);
  query.addEventListener("change", onChange);
  return () => query.removeEventListener("change", onChange);
}

/** Returns whether the window is as narrow as a phone, also when a page is enlarged that much. */
export function useNarrow(): boolean {
  return useSyncExternalStore(subscribe, () => window.matchMedia(NARROW).matches);
}
