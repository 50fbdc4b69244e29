import { refused, type Refused } from "../refused";
import type { postAccount, putAccount, postEndAccount } from "@amigo/contract/staff";
import type { HouseRole } from "@amigo/core/access/may";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { orRefuse, refuse } from "../http/fault";
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
  const siteId = orRefuse(await siteNamed(db, body.site, body.role));
  refuse(refuseGiving(caller, body.role, siteId));
  const { id } = orRefuse(
    await desk.run("changeAccount", {
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
    }),
  );
  await invite(context, id, body.name, body.email, caller);
  return { id };
}

/** Changes what an account may do and until when. */
export async function saveAccount(
  { db, desk }: Context,
  { params, body, caller }: Request<typeof putAccount>,
): Promise<Answer<typeof putAccount>> {
  const row = orRefuse(await findChangeableAccount(db, params.id, caller));
  const siteId = orRefuse(await siteNamed(db, body.site, body.role));
  refuse(refuseGiving(caller, body.role, siteId));
  refuse(
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
    }),
  );
  return { done: true as const };
}

/** Ends an account at once, or lets it go on. */
export async function endAccount(
  { db, desk }: Context,
  { params, body, caller }: Request<typeof postEndAccount>,
): Promise<Answer<typeof postEndAccount>> {
  const row = orRefuse(await findChangeableAccount(db, params.id, caller));
  refuse(
    await desk.run("changeAccount", {
      editor: editorOf(caller),
      change: { what: "end", id: row.id, ended: body.ended },
    }),
  );
  return { done: true as const };
}

function refuseGiving(caller: Caller, role: HouseRole, siteId: number | null): Refused | undefined {
  if (!mayGive(caller, role, siteId))
    return refused(403, "account/role", t("staff.youMayInviteAndChange"), "role");
}

async function siteNamed(
  db: Queries,
  name: string,
  role: HouseRole,
): Promise<number | null | Refused> {
  if (name === "") {
    if (role === "site coordinator")
      return refused(422, "account/site", t("staff.sayForWhichSiteA"), "site");
    return null;
  }
  const found = await findSiteNamed(db, name);
  if (found === undefined)
    return refused(422, "account/site", t("staff.thereIsNoSiteCalled", { name }), "site");
  return found.id;
}
