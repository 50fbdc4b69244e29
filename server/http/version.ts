import { createHash } from "node:crypto";
import { Refusal } from "./fault";
import { t } from "../texts/t";

/** Names what some settings are now: two that are alike have one name, whatever the order of their parts. */
export function versionOf(settings: unknown): string {
  return createHash("sha256").update(inOrder(settings)).digest("base64url").slice(0, 22);
}

/**
 * Makes sure that somebody changes the settings that they have seen. Called in the transaction that changes them, after they were read
 * for update, so that of two who change them at once the second is told.
 *
 * @throws Refusal 409
 */
export function refuseStale(now: unknown, seen: string): void {
  if (versionOf(now) !== seen)
    throw new Refusal(409, "changed-since", t("http.somebodyElseChangedThisSince"));
}

function inOrder(value: unknown): string {
  return JSON.stringify(value, (_key, part: unknown) =>
    typeof part === "object" && part !== null && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([a], [b]) => (a < b ? -1 : 1)))
      : part,
  );
}
