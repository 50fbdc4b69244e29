import type { PostPage } from "@amigo/contract/posts";
import type { MissedRow } from "./missedQueries";

type Missed = PostPage["missed"][number];

/** Says why somebody on a list got no copy of a post. */
export function missedOf(row: MissedRow, people: string): Missed {
  return { address: row.address, people, ...reasonOf(row) };
}

function reasonOf(row: MissedRow): Pick<Missed, "why" | "at" | "words"> {
  const said = (why: Missed["why"], at: string | null = null, words = "") => ({
    why,
    at: at === null ? null : /^\d{4}-\d{2}-\d{2}$/.test(at) ? at : new Date(at).toISOString(),
    words,
  });
  if (row.joined !== null) return said("joined later", row.joined);
  if (row.in_digest)
    return row.digest_at === null ? said("next digest") : said("in a digest", row.digest_at);
  if (row.elsewhere) return said("by another list");
  if (row.stopped !== null) return said("stopped", row.stopped, row.stopped_words ?? "");
  if (row.paused !== null) return said("paused", row.paused);
  return said(row.how_often === "nothing" ? "wants none" : "left out");
}
