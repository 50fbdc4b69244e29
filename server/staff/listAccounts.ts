import { type getAccounts } from "@amigo/contract/staff";
import { HOUSE_ROLES } from "@amigo/core/access/may";
import { dayIn } from "@amigo/core/schedule/dayIn";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { mayGive } from "./mayGive";
import { loadHouse, listSites } from "../db/houseQueries";
import { listShownAccounts, listHelperSources, listCurrentSources } from "./queries";

/** Returns accounts of the house, or of the asker's site. */
export async function listAccounts(
  { db }: Context,
  { caller }: Request<typeof getAccounts>,
): Promise<Answer<typeof getAccounts>> {
  const house = await loadHouse(db);
  const rows = await listShownAccounts(db, caller.role, caller.siteId, caller.id);
  const helping = await listHelperSources(db);
  const sources = caller.role !== "coordinator" ? [] : await listCurrentSources(db);
  const sites = await listSites(db);
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
          : dayIn(house?.timeZone ?? "UTC", new Date(row.endedAt.getTime() - 1)),
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
