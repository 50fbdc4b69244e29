import { holdLock } from "../db/holdLock";
import { say } from "@amigo/language/say";
import { Refused, refused } from "../refused";
import { createHash } from "node:crypto";
import { sql, type SQL } from "drizzle-orm";
import { nextReading } from "@amigo/core/schedule/nextReading";
import type { Context } from "../context";
import { notify } from "../events/events";
import { answerBeside } from "./answerBeside";
import { ENDED_READER } from "../sandbox/openBook";
import { fetchWeb, type Fetched } from "../sandbox/fetchWeb";
import { fetchWatched } from "./fetchWatched";
import { describeFailure } from "../describeFailure";
import { t } from "../texts/t";
import { source } from "../db/schema/sources";
import { fetchPosted } from "./postedAnswers";
import { loadHouse } from "../db/houseQueries";
import {
  findSource,
  claimDueSources,
  storeNextLook,
  storeLookDone,
  storeLookFailed,
} from "./queries";
import type { Queries } from "../db/connect";

/** What came of a look at a source that keeps itself. */
export interface LookOutcome {
  ok: boolean;
  outcome: string;
}

/** Any number that no other lock in this database begins with: one look at a time for each source, on any worker. */
const LOOK_LOCK = 7_204;

/**
 * Looks at a source that keeps itself: fetches its sheet if it has changed, reads it by the plan of the last
 * reading, and, where it may, carries out what follows. The result is stored with the source.
 */
export async function keepItself(context: Context, id: string): Promise<LookOutcome | Refused> {
  return (
    (await holdLock(context.connection.pool, LOOK_LOCK, id, () => look(context, id))) ?? {
      ok: true,
      outcome: t("sources.itIsBeingReadJust"),
    }
  );
}

/** Fetches what stands where a source looks. */
export async function fetchFor(
  { settings, db }: Pick<Context, "settings" | "db">,
  kind: "watched" | "web" | "posted",
  location: string,
  seen?: Record<string, string>,
): Promise<Fetched | Refused> {
  if (kind === "posted") return fetchPosted(db, location, seen);
  return kind === "watched"
    ? fetchWatched(settings.watched, location, seen)
    : fetchWeb(location, settings.allowedHosts, seen);
}

/** The sources that are due now, with the next time set a little on, so that no two workers take one. */
export async function claimDue({ db }: Pick<Context, "db">, now: Date): Promise<string[]> {
  const rows = await claimDueSources(db, now);
  return rows.map(({ id }) => id);
}

async function look(context: Context, id: string): Promise<LookOutcome | Refused> {
  const { db } = context;
  const source = await findSource(db, id);
  if (
    source === undefined ||
    (source.kind !== "watched" && source.kind !== "web" && source.kind !== "posted")
  )
    return refused(422, "source/by-hand", t("sources.thisSourceIsntConnectedTo"));
  const { kind } = source;
  const now = new Date();
  const after = { triedAt: now, nextAt: await nextLook(db, source, kind, now) };
  const failed = async (outcome: string, seen: { seen?: SourceRow["seen"] } = {}) => {
    await storeLookFailed(db, source, {
      ...after,
      outcome,
      failures: source.failures + 1,
      failingSince: source.failingSince ?? now,
      ...seen,
    });
    await notify(db, "sources", "board");
    return { ok: false, outcome };
  };
  try {
    const from = kind === "posted" ? source.id : source.location;
    const fetched = await fetchFor(context, kind, from, source.seen);
    if (fetched instanceof Refused) return await failed(say(fetched.detail));
    if (isRefusedAgain(source, fetched)) {
      await storeNextLook(db, after, id);
      return { ok: false, outcome: source.outcome };
    }
    const outcome = fetched.changed
      ? await readChanged(context, source, fetched)
      : t("sources.itHasNotChanged");
    if (outcome instanceof Refused)
      return await failed(say(outcome.detail), seenToRefuse(fetched, outcome));
    await storeLookDone(db, after, outcome, fetched.changed ? fetched.seen : undefined, id);
    await notify(db, "sources");
    return { ok: true, outcome };
  } catch (failure) {
    context.log.error(
      { failure: describeFailure(failure), source: source.name },
      "a source could not be read",
    );
    return failed(t("sources.somethingInAmigoFailedWhile"));
  }
}

type SourceRow = typeof source.$inferSelect;

/** Returns when a source is to be looked at next. */
async function nextLook(
  db: Queries,
  eachSource: SourceRow,
  kind: "watched" | "web" | "posted",
  now: Date,
): Promise<SQL | Date | null> {
  // An answer that comes while the others are read sets the time again: it must stay, or that answer would wait for the next.
  if (kind === "posted")
    return sql`case when date_trunc('milliseconds', ${source.nextAt}) = ${eachSource.nextAt?.toISOString() ?? null}::timestamptz then null else ${source.nextAt} end`;
  const settings = await loadHouse(db);
  return nextReading(eachSource.schedule, kind, now, settings?.timeZone ?? "UTC") ?? null;
}

/** Returns what keeps a file that has ended its reader from being opened again by itself. */
function seenToRefuse(fetched: Fetched, { type }: Refused): { seen?: SourceRow["seen"] } {
  return fetched.changed && type === ENDED_READER
    ? { seen: { ...fetched.seen, [ENDED]: hashOf(fetched.bytes) } }
    : {};
}

/** Under this name a source keeps the hash of a file that has ended its reader. */
const ENDED = "ended";

/** Whether this very file has ended its reader before. It is not opened again by itself; a person may import it by hand. */
function isRefusedAgain(eachSource: typeof source.$inferSelect, fetched: Fetched): boolean {
  const ended = eachSource.seen[ENDED];
  return ended !== undefined && (!fetched.changed || hashOf(fetched.bytes) === ended);
}

function hashOf(bytes: Uint8Array): string {
  return createHash("sha256").update(bytes).digest("hex");
}

async function readChanged(
  context: Context,
  eachSource: typeof source.$inferSelect,
  fetched: Extract<Fetched, { changed: true }>,
): Promise<string | Refused> {
  const read = await context.desk.run("readItself", {
    source: eachSource.id,
    file: { name: fetched.name, bytes: fetched.bytes, writtenAt: fetched.writtenAt },
    byItself: eachSource.mode === "itself",
  });
  if (read instanceof Refused) return read;
  const what = read.same
    ? eachSource.kind === "posted"
      ? t("sources.itsRowsAreTheSame")
      : t("sources.theFileWasSavedAnew")
    : t("sources.read", { students: read.students });
  const then =
    read.byItself !== ""
      ? read.byItself
      : read.causes === 0
        ? t("shared.nothingChanges")
        : t("sources.inRoundToDecide", { causes: read.causes, round: read.round ?? 0 });
  const beside =
    eachSource.answersBeside && eachSource.kind === "watched"
      ? await answerBeside(context, eachSource, fetched.bytes)
      : "";
  return t("sources.whatThenIsbesideBeside", { what, then, beside });
}
