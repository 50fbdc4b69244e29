import { eq, sql } from "drizzle-orm";
import type { z } from "zod";
import type { putBasics } from "@amigo/contract/house";
import type { Caller } from "../callers/caller";
import type { Database } from "../db/connect";
import { house, season, site } from "../db/schema";
import { notify } from "../events/events";
import { Refusal } from "../http/fault";
import { refuseStale, versionOf } from "../http/version";
import { record } from "../journal/record";

type Wanted = z.output<NonNullable<typeof putBasics.body>>;

/** What a house is called, where it is, its domains and the codes of its sites. */
export function basicsOf(
  own: typeof house.$inferSelect,
  sites: readonly { name: string; code: string }[],
) {
  return {
    house: own.name,
    kind: own.kind,
    insideDomain: own.insideDomain,
    listDomain: own.listDomain,
    timeZone: own.timeZone,
    country: own.country,
    language: own.language,
    studentAddress: own.studentAddress,
    codes: Object.fromEntries(sites.map(({ name, code }) => [name, code])),
  };
}

/**
 * Changes what a house is called, where it is, its domains and the codes of its sites, and tells what follows.
 *
 * @throws Refusal 409 when somebody else has changed it meanwhile, 422 when two sites would have one code
 */
export async function changeBasics(
  db: Database,
  caller: Caller,
  { house: name, codes, version, ...wanted }: Wanted,
): Promise<{ follows: string[]; version: string }> {
  return db.transaction(async (tx) => {
    const [before] = await tx.select().from(house).for("update");
    if (before === undefined) throw new Refusal(503, "not-set-up", "Amigo is not set up yet.");
    const sites = await tx.select().from(site).orderBy(site.id);
    refuseStale(basicsOf(before, sites), version);
    const after = sites.map((own) => ({
      ...own,
      code: (codes[own.name] ?? own.code).toUpperCase(),
    }));
    const twice = after.find(({ code }, at) => after.findIndex((own) => own.code === code) !== at);
    if (twice !== undefined)
      throw new Refusal(
        422,
        "site/code-taken",
        `Two sites can't share the code ${twice.code}. Choose another one for ${twice.name}.`,
        "codes",
      );
    const renamed = after.filter(
      ({ code, id }) => sites.find((own) => own.id === id)?.code !== code,
    );
    // Codes may be swapped between two sites, so they first make room.
    for (const { id } of renamed)
      await tx
        .update(site)
        .set({ code: `~${id}` })
        .where(eq(site.id, id));
    for (const { id, code } of renamed) await tx.update(site).set({ code }).where(eq(site.id, id));
    await tx.update(house).set({ name, ...wanted });
    await tx.update(season).set({ version: sql`${season.version} + 1` });
    await record(tx, {
      actorId: caller.id,
      actor: caller.name,
      action: "change the house",
      sentence: `${caller.name} changed name, place, domains or site codes of ${name}`,
      before: basicsOf(before, sites),
      after: {
        house: name,
        ...wanted,
        codes: Object.fromEntries(after.map((own) => [own.name, own.code])),
      },
    });
    await notify(tx, "house", "rounds", "board");
    const follows: string[] = [];
    if (before.listDomain !== wanted.listDomain)
      follows.push(
        `Every list's address ends in @${wanted.listDomain} from now on. Mail to @${before.listDomain} is no longer taken, so publish the new DNS records (Settings, Mail) and tell your writers.`,
      );
    if (before.insideDomain !== wanted.insideDomain)
      follows.push(
        `Addresses in ${wanted.insideDomain} count as inside from now on, those in ${before.insideDomain} as outside. Who is on a list already stays on it.`,
      );
    if (before.studentAddress !== wanted.studentAddress)
      follows.push("Students' addresses change in the next round. Review it in Changes.");
    if (renamed.length > 0)
      follows.push(
        "New lists get the new site code. The names of existing lists stay until you rename them in Naming.",
      );
    if (before.timeZone !== wanted.timeZone)
      follows.push(`All times are shown and meant by the clocks of ${wanted.timeZone}.`);
    const [now] = await tx.select().from(house);
    return { follows, version: versionOf(basicsOf(now ?? before, after)) };
  });
}
