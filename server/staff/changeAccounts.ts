import { type postAccount, type putAccount, type postEndAccount } from "@amigo/contract/staff";
import type { HouseRole } from "@amigo/core/access/may";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { editorOf } from "../rounds/editRights";
import { t } from "../texts/t";
import { invite } from "./invite";
import { mayGive } from "./mayGive";
import { findSiteNamed } from "./queries";
import { findChangeableAccount } from "./findChangeableAccount";

/** Invites somebody by mail. */
export async function addAccount(
  context: Context,
  { body, caller }: Request<typeof postAccount>,
): Promise<Answer<typeof postAccount>> {
  const { db, desk } = context;
  const siteId = await siteNamed(db, body.site, body.role);
  refuseGiving(caller, body.role, siteId);
  const { id } = await desk.run("changeAccount", {
    editor: editorOf(caller),
    change: {
      what: "invite",
      name: body.name,
      email: body.email,
      role: body.role,
      siteId,
      sources: body.sources,
      lastDay: body.lastDay,
    },
  });
  await invite(context, id, body.name, body.email, caller);
  return { id };
}

/** Changes what an account may do and until when. */
export async function saveAccount(
  { db, desk }: Context,
  { params, body, caller }: Request<typeof putAccount>,
): Promise<Answer<typeof putAccount>> {
  const row = await findChangeableAccount(db, params.id, caller);
  const siteId = await siteNamed(db, body.site, body.role);
  refuseGiving(caller, body.role, siteId);
  await desk.run("changeAccount", {
    editor: editorOf(caller),
    change: {
      what: "role",
      id: row.id,
      role: body.role,
      siteId,
      sources: body.sources,
      lastDay: body.lastDay,
    },
  });
  return { done: true as const };
}

/** Ends an account at once, or lets it go on. */
export async function endAccount(
  { db, desk }: Context,
  { params, body, caller }: Request<typeof postEndAccount>,
): Promise<Answer<typeof postEndAccount>> {
  const row = await findChangeableAccount(db, params.id, caller);
  await desk.run("changeAccount", {
    editor: editorOf(caller),
    change: { what: "end", id: row.id, ended: body.ended },
  });
  return { done: true as const };
}

function refuseGiving(caller: Caller, role: HouseRole, siteId: number | null): void {
  if (!mayGive(caller, role, siteId))
    throw new Refusal(403, "account/role", t("staff.youMayInviteAndChange"), "role");
}

async function siteNamed(db: Queries, name: string, role: HouseRole): Promise<number | null> {
  if (name === "") {
    if (role === "site coordinator")
      throw new Refusal(422, "account/site", t("staff.sayForWhichSiteA"), "site");
    return null;
  }
  const found = await findSiteNamed(db, name);
  if (found === undefined)
    throw new Refusal(422, "account/site", t("staff.thereIsNoSiteCalled", { name }), "site");
  return found.id;
}
