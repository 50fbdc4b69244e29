import type { ListPage } from "@amigo/contract/lists";

export function stateOf({
  closedAt,
  isCurrent,
}: {
  closedAt: Date | null;
  isCurrent: boolean;
}): ListPage["state"] {
  return closedAt === null ? "open" : isCurrent ? "closed" : "season over";
}
