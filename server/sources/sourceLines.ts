import type { SourceLine } from "@amigo/contract/sources";
import type { Queries } from "../db/connect";
import { versionOf } from "../http/version";
import { readingLines } from "../facts/readingQueries";
import { sourceSettings } from "./sourceSettings";
import { listCurrent } from "./queries";
import { countPosted } from "./postedQueries";

/** The sources of the current season, oldest first, each with its last reading and what it does by itself. */
export async function sourceLines(db: Queries): Promise<SourceLine[]> {
  const rows = await listCurrent(db);
  const posted = new Map((await countPosted(db)).map(({ id, count }) => [id, count]));
  const last = new Map(
    (rows.length === 0
      ? []
      : await readingLines(db, { newestOf: rows.map(({ own: item }) => item.id) })
    ).map(({ sourceId, line }) => [sourceId, line]),
  );
  return rows.map(({ own: item }) => ({
    id: item.id,
    ...sourceSettings(item),
    version: versionOf(sourceSettings(item)),
    posted: posted.get(item.id) ?? 0,
    last: last.get(item.id) ?? null,
    nextAt: item.nextAt?.toISOString() ?? null,
    triedAt: item.triedAt?.toISOString() ?? null,
    outcome: item.outcome,
    failures: item.failures,
    failingSince: item.failingSince?.toISOString() ?? null,
  }));
}
