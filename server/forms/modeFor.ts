import { type Caller, callerMay } from "../callers/caller";

/** Only who decides on rounds may let a form carry its own out. */
export function modeFor(
  caller: Caller,
  wanted: "ask" | "itself",
  before: "ask" | "itself",
): "ask" | "itself" {
  return callerMay(caller, "decide a round") ? wanted : before;
}
