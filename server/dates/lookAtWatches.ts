import { createHash } from "node:crypto";
import type { ImportWishes } from "@amigo/contract/dateImport";
import { say } from "@amigo/language/say";
import { nextReading } from "@amigo/core/schedule/nextReading";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import { describeFailure } from "../describeFailure";
import { notify } from "../events/events";
import { Refused } from "../refused";
import { fetchWeb, type Fetched } from "../sandbox/fetchWeb";
import { t } from "../texts/t";
import { countDifferences, planImport } from "./planImport";
import { claimDueWatches, storeLook, type WatchRow } from "./watchQueries";

/** Under this name a watched address keeps the hash of what it last sent: many servers send it all again each time. */
const HASH = "hash";

/**
 * Looks at the web addresses with dates that are due, and counts what differs from Amigo's dates. Nothing is changed: their owners
 * review it.
 */
export async function lookAtWatches(context: Context, now = new Date()): Promise<void> {
  for (const { watch, owner } of await claimDueWatches(context.db, now))
    await look(context, watch, { ...owner, by: "session" }, now);
}

async function look(context: Context, watch: WatchRow, owner: Caller, now: Date): Promise<void> {
  const { db } = context;
  const after = {
    lookedAt: now,
    nextAt: nextReading({ when: "changed" }, "web", now, "UTC") ?? null,
  };
  const found = await differences(context, watch, owner).catch((failure: unknown) => {
    context.log.error(
      { failure: describeFailure(failure), watch: watch.id },
      "a watched address with dates could not be read",
    );
    return t("sources.somethingInAmigoFailedWhile");
  });
  if (typeof found === "string")
    await storeLook(db, watch.id, {
      ...after,
      fault: found,
      failures: watch.failures + 1,
      failingSince: watch.failingSince ?? now,
    });
  else await storeLook(db, watch.id, { ...after, ...found, ...WELL });
  // Pages fetch their dates again, and guests are looked through: not every quarter of an hour for nothing.
  const isNews =
    typeof found === "string" ||
    watch.fault !== "" ||
    (found.waiting ?? watch.waiting) !== watch.waiting;
  if (isNews) await notify(db, "dates", "board");
}

/** What is stored where a look has succeeded. */
export const WELL = { fault: "", failures: 0, failingSince: null };

/** What is new at a watched address, as far as it has changed since the last look; else what is wrong. */
async function differences(
  context: Context,
  watch: WatchRow,
  owner: Caller,
): Promise<Partial<Pick<WatchRow, "waiting" | "seen">> | string> {
  const { [HASH]: before, ...asked } = watch.seen;
  const fetched = await fetchFrom(context, watch.location, asked);
  if (fetched instanceof Refused) return say(fetched.detail);
  if (!fetched.changed) return {};
  const hash = createHash("sha256").update(fetched.bytes).digest("hex");
  const seen = { ...fetched.seen, [HASH]: hash };
  if (hash === before) return { seen };
  const plan = await planImport(context.db, owner, fetched.bytes, wishesOf(watch));
  return plan instanceof Refused ? say(plan.detail) : { seen, waiting: countDifferences(plan) };
}

/** Returns how the dates of a watched address are imported. */
export function wishesOf({ name, listId, group }: WatchRow): ImportWishes {
  return { name, list: listId ?? "", group };
}

/** Fetches the dates at a web address; one for calendar programs (`webcal:`) is read by https. */
async function fetchFrom(
  { settings }: Pick<Context, "settings">,
  address: string,
  seen: Record<string, string> = {},
): Promise<Fetched | Refused> {
  return fetchWeb(address.replace(/^webcals?:/i, "https:"), settings.allowedHosts, seen);
}

/** Fetches the dates at a web address, whether or not they have changed. */
export async function fetchDates(
  context: Pick<Context, "settings">,
  address: string,
): Promise<Uint8Array | Refused> {
  const fetched = await fetchFrom(context, address);
  if (fetched instanceof Refused) return fetched;
  return fetched.changed ? fetched.bytes : new Uint8Array();
}
