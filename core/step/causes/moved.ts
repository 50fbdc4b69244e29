import { joined } from "../../text/sentence";

export function moveKey(from: readonly string[], to: readonly string[]): string {
  if (from.length === 0) return `also in ${joined(to)} now`;
  return to.length === 0 ? `no longer in ${joined(from)}` : `${joined(from)} → ${joined(to)}`;
}

export function addressKey(from: readonly string[], to: readonly string[]): string {
  if (from.length === 0) return `can be reached at ${joined(to)}`;
  return to.length === 0
    ? `can no longer be reached at ${joined(from)}`
    : `${joined(from)} → ${joined(to)}`;
}

export function howMoved(
  from: readonly string[],
  to: readonly string[],
): "replaced" | "added" | "removed" {
  if (from.length === 0) return "added";
  return to.length === 0 ? "removed" : "replaced";
}
