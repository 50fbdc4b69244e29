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
import {
  loadHouse,
  lockHouse,
  removeFormerDomain,
  storeFormerDomain,
  type FormerUse,
} from "../db/houseQueries";
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
  { house: name, codes, version, graceDays, insideGraceDays, ...wanted }: Wanted,
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
    const { timeZone } = wanted;
    const lastDay = await keepDomain(tx, "lists", before.listDomain, wanted.listDomain, {
      timeZone,
      days: graceDays,
    });
    const lastInside = await keepDomain(tx, "inside", before.insideDomain, wanted.insideDomain, {
      timeZone,
      days: insideGraceDays,
    });
    await renewSeasons(tx);
    await record(tx, {
      actorId: caller.id,
      actor: caller.name,
      action: "change the house",
      sentence: () => t("house.changedNamePlaceDomainsOr", { name: caller.name, school: name }),
      before: basicsOf(before, sites),
      after: {
        house: name,
        ...wanted,
        codes: Object.fromEntries(after.map((item) => [item.name, item.code])),
      },
    });
    await notify(tx, "house", "rounds", "board");
    const follows = whatFollows(before, wanted, { lastDay, lastInside, renamed: renamed.length });
    const now = await loadHouse(tx);
    return { follows, version: versionOf(basicsOf(now ?? before, after)) };
  });
}

/** Says what follows from a change of what a house is called, where it is, its domains and codes, sentence by sentence. */
function whatFollows(
  before: typeof house.$inferSelect,
  wanted: Omit<Wanted, "house" | "codes" | "version" | "graceDays" | "insideGraceDays">,
  {
    lastDay,
    lastInside,
    renamed,
  }: { lastDay: string | undefined; lastInside: string | undefined; renamed: number },
): string[] {
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
      lastInside === undefined
        ? t("house.addressesInCountAsInside", {
            now: wanted.insideDomain,
            before: before.insideDomain,
          })
        : t("house.oldInsideDomainCounts", {
            now: wanted.insideDomain,
            before: before.insideDomain,
            lastDay: day(lastInside),
          }),
    );
  if (before.studentAddress !== wanted.studentAddress)
    follows.push(t("house.studentsAddressesChangeInThe"));
  if (renamed > 0) follows.push(t("house.newListsGetTheNew"));
  if (before.timeZone !== wanted.timeZone)
    follows.push(t("house.allTimesAreShownAnd", { timeZone: wanted.timeZone }));
  return follows;
}

/** Lets a domain of before do what it did for some days more. Returns the last of them; nothing where it ends at once. */
async function keepDomain(
  tx: Queries,
  use: FormerUse,
  before: string,
  after: string,
  { timeZone, days }: { timeZone: string; days: number },
): Promise<string | undefined> {
  await removeFormerDomain(tx, use, after);
  if (before === after || days === 0) return undefined;
  const lastDay = dayIn(timeZone, new Date(Date.now() + days * DAY));
  await storeFormerDomain(tx, use, before, lastDay);
  return lastDay;
}
