import { readFileSync } from "node:fs";
import { BOUNCE_SORTS, type BounceSort } from "@amigo/core/mail/bounces/form";

/** What a far server said, and what it meant by it. */
export interface Reply {
  kind: BounceSort;
  reply: string;
}

/** The replies of `core/mail/bounces/replies.txt`. */
export function readReplies(): Reply[] {
  const file = new URL("../../../core/mail/bounces/replies.txt", import.meta.url);
  const replies: Reply[] = [];
  let kind: BounceSort | undefined;
  for (const line of readFileSync(file, "utf8").split("\n")) {
    const named = /^\[(.+)\]$/.exec(line)?.[1];
    if (named !== undefined) kind = BOUNCE_SORTS.find((sort) => sort === named);
    else if (kind !== undefined && /^[^;#]/.test(line)) replies.push({ kind, reply: line });
  }
  return replies;
}
