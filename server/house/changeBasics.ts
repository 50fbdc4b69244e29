import { day } from "@amigo/language/message";
import { dayIn } from "@amigo/core/schedule/dayIn";
import { refused, type Refused } from "../refused";
import { inTransaction } from "../db/inTransaction";
import type { z } from "zod";
import type { putBasics } from "@amigo/contract/house";
import type { Caller } from "../callers/caller";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { refuseStale, versionOf } from "../http/version";
import { record } from "../events/record";
import { t } from "../texts/t";
import type { house } from "../db/schema/house";
import { loadHouse, lockHouse, removeFormerDomain, storeFormerDomain } from "../db/houseQueries";
import { listSitesById, parkSiteCode, storeSiteCode, storeBasics, renewSeasons } from "./queries";

const DAY = 24 * 60 * 60 * 1000;

type Wanted = z.output<NonNullable<typeof putBasics.body>>;

/** What a house is called, where it is, its domains and the codes of its sites. */
export function basicsOf(
  before: typeof house.$inferSelect,
  sites: readonly { name: string; code: string }[],
) {
  return {
    house: before.name,
    kind: before.kind,
    insideDomain: before.insideDomain,
    listDomain: before.listDomain,
    timeZone: before.timeZone,
    country: before.country,
    language: before.language,
    studentAddress: before.studentAddress,
    codes: Object.fromEntries(sites.map(({ name, code }) => [name, code])),
  };
}

/**
 * Changes what a house is called, where it is, its domains and the codes of its sites, and tells what follows.
 *
 * Refused with 409 when somebody else has changed it meanwhile, 422 when two sites would have one code.
 */
export async function changeBasics(
  db: Database,
  caller: Caller,
  { house: name, codes, version, graceDays, ...wanted }: Wanted,
): Promise<{ follows: string[]; version: string } | Refused> {
  return inTransaction(db, async (tx) => {
    const before = await lockHouse(tx);
    if (before === undefined) return refused(503, "not-set-up", t("house.amigoIsNotSetUp"));
    const sites = await listSitesById(tx);
    refuseStale(basicsOf(before, sites), version);
    const after = sites.map((site) => ({
      ...site,
      code: (codes[site.name] ?? site.code).toUpperCase(),
    }));
    const twice = after.find(
      ({ code }, at) => after.findIndex((candidate) => candidate.code === code) !== at,
    );
    if (twice !== undefined)
      return refused(
        422,
        "site/code-taken",
        t("house.twoSitesCantShareThe", { code: twice.code, name: twice.name }),
        "codes",
      );
    const renamed = after.filter(
      ({ code, id }) => sites.find((site) => site.id === id)?.code !== code,
    );
    // Codes may be swapped between two sites, so they first make room.
    for (const { id } of renamed) await parkSiteCode(tx, id);
    for (const { id, code } of renamed) await storeSiteCode(tx, code, id);
    await storeBasics(tx, name, wanted);
    const lastDay = await keepDomain(tx, before, wanted, graceDays);
    await renewSeasons(tx);
    await record(tx, {
      actorId: caller.id,
      actor: caller.name,
      action: "change the house",
      sentence: t("house.changedNamePlaceDomainsOr", { name: caller.name, school: name }),
      before: basicsOf(before, sites),
      after: {
        house: name,
        ...wanted,
        codes: Object.fromEntries(after.map((item) => [item.name, item.code])),
      },
    });
    await notify(tx, "house", "rounds", "board");
    const follows: string[] = [];
    if (before.listDomain !== wanted.listDomain)
      follows.push(
        t("house.everyListsAddressEndsIn", { now: wanted.listDomain }),
        lastDay === undefined
          ? t("house.oldDomainEnds", { before: before.listDomain })
          : t("house.oldDomainWorks", { before: before.listDomain, lastDay: day(lastDay) }),
      );
    if (before.insideDomain !== wanted.insideDomain)
      follows.push(
        t("house.addressesInCountAsInside", {
          now: wanted.insideDomain,
          before: before.insideDomain,
        }),
      );
    if (before.studentAddress !== wanted.studentAddress)
      follows.push(t("house.studentsAddressesChangeInThe"));
    if (renamed.length > 0) follows.push(t("house.newListsGetTheNew"));
    if (before.timeZone !== wanted.timeZone)
      follows.push(t("house.allTimesAreShownAnd", { timeZone: wanted.timeZone }));
    const now = await loadHouse(tx);
    return { follows, version: versionOf(basicsOf(now ?? before, after)) };
  });
}

/** Lets mail to the list domain of before reach lists for some days more. Returns the last of them; nothing where it ends at once. */
async function keepDomain(
  tx: Queries,
  before: { listDomain: string },
  after: { listDomain: string; timeZone: string },
  days: number,
): Promise<string | undefined> {
  await removeFormerDomain(tx, after.listDomain);
  if (before.listDomain === after.listDomain || days === 0) return undefined;
  const lastDay = dayIn(after.timeZone, new Date(Date.now() + days * DAY));
  await storeFormerDomain(tx, before.listDomain, lastDay);
  return lastDay;
}
