import { type getOwnSessions, type deleteSession, type postEndOthers } from "@amigo/contract/staff";
import { endOtherSessions } from "../accounts/signIn";
import { hashToken } from "../callers/tokens";
import type { Context } from "../context";
import { readSecret } from "../http/cookies";
import { notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { record } from "../events/record";
import { t } from "../texts/t";
import { listSessions, removeSession } from "./queries";

/** Returns where the asker is signed in. */
export async function listOwnSessions(
  { settings, db }: Context,
  { caller, http }: Request<typeof getOwnSessions>,
): Promise<Answer<typeof getOwnSessions>> {
  const mine = hashToken(readSecret(http, settings, "session") ?? "");
  const rows = await listSessions(db, caller.id);
  return rows.map(({ id, browser, createdAt, lastSeenAt, tokenHash }) => ({
    id,
    browser,
    since: createdAt.toISOString(),
    lastSeen: lastSeenAt.toISOString(),
    mine: tokenHash === mine,
  }));
}

/** Ends one of the asker's sessions. */
export async function endSession(
  { db }: Context,
  { params, caller }: Request<typeof deleteSession>,
): Promise<Answer<typeof deleteSession>> {
  const ended = await removeSession(db, params.id, caller.id);
  if (ended.length === 0) throw notFound("session");
  await record(db, {
    actorId: caller.id,
    actor: caller.name,
    action: "end session",
    sentence: () => t("staff.endedOneOfTheirSessions", { name: caller.name }),
  });
  return { done: true as const };
}

/** Ends all of the asker's sessions but this one. */
export async function signOutElsewhere(
  { db, settings }: Context,
  { caller, http }: Request<typeof postEndOthers>,
): Promise<Answer<typeof postEndOthers>> {
  const ended = await endOtherSessions(db, caller.id, readSecret(http, settings, "session") ?? "");
  await record(db, {
    actorId: caller.id,
    actor: caller.name,
    action: "end session",
    sentence: () => t("staff.endedOfTheirOtherSessions", { name: caller.name, ended }),
  });
  return { ended };
}
