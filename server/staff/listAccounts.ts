import { count, eq, and, isNull, sql } from "drizzle-orm";
import { type getAccounts } from "@amigo/contract/staff";
import { HOUSE_ROLES } from "@amigo/core/access/may";
import { dayIn } from "@amigo/core/schedule/dayIn";
import { hasSecondStep } from "../callers/inForce";
import type { Context } from "../context";
import { account } from "../db/schema/accounts";
import { house, site, season } from "../db/schema/house";
import { list, listRole } from "../db/schema/lists";
import { sourceHelper, source } from "../db/schema/sources";
import type { Request, Answer } from "../http/handler";
import { mayGive } from "./mayGive";

export async function listAccounts(
  { db }: Context,
  { caller }: Request<typeof getAccounts>,
): Promise<Answer<typeof getAccounts>> {
  const [own] = await db.select({ timeZone: house.timeZone }).from(house);
  const rows = await db
    .select({ account, site: site.name, leads: count(list.id), hasSecondStep })
    .from(account)
    .leftJoin(site, eq(site.id, account.siteId))
    .leftJoin(listRole, eq(listRole.accountId, account.id))
    .leftJoin(list, and(eq(list.id, listRole.listId), isNull(list.closedAt)))
    .where(
      caller.role === "coordinator"
        ? undefined
        : caller.siteId === null
          ? eq(account.id, caller.id)
          : eq(account.siteId, caller.siteId),
    )
    .groupBy(account.id, site.name)
    .orderBy(sql`${account.endedAt} is not null and ${account.endedAt} <= now()`, account.name);
  const helping = await db
    .select({ accountId: sourceHelper.accountId, id: source.id, name: source.name })
    .from(sourceHelper)
    .innerJoin(source, eq(source.id, sourceHelper.sourceId));
  const sources =
    caller.role !== "coordinator"
      ? []
      : await db
          .select({ id: source.id, name: source.name })
          .from(source)
          .innerJoin(season, eq(season.id, source.seasonId))
          .where(eq(season.current, true))
          .orderBy(source.name);
  const sites = await db.select({ id: site.id, name: site.name }).from(site).orderBy(site.name);
  return {
    accounts: rows.map(({ account: row, site: at, leads, hasSecondStep: twoStep }) => ({
      id: row.id,
      name: row.name,
      email: row.email,
      role: row.role,
      site: at ?? "",
      leads,
      sources: helping
        .filter(({ accountId }) => accountId === row.id)
        .map(({ id, name }) => ({ id, name })),
      lastDay:
        row.endedAt === null
          ? ""
          : dayIn(own?.timeZone ?? "UTC", new Date(row.endedAt.getTime() - 1)),
      state:
        row.endedAt !== null && row.endedAt.getTime() <= Date.now()
          ? ("ended" as const)
          : row.passwordHash === ""
            ? ("invited" as const)
            : ("in use" as const),
      twoStep,
      mine: row.id === caller.id,
      mayChange: mayGive(caller, row.role, row.siteId),
    })),
    sites: sites
      .filter(({ id }) => caller.role === "coordinator" || id === caller.siteId)
      .map(({ name }) => name),
    sources,
    roles: HOUSE_ROLES.filter((role) => mayGive(caller, role, caller.siteId)),
  };
}
