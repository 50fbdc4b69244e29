import { refused } from "../refused";
import type { getNaming, putNaming } from "@amigo/contract/naming";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { orRefuse } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { versionOf, refuseStale } from "../http/version";
import { record } from "../events/record";
import { t } from "../texts/t";
import { lockHouse, loadHouse } from "../db/houseQueries";
import { storeNaming } from "./queries";

/** Returns what names have to keep to. */
export async function showNaming({ db }: Context): Promise<Answer<typeof getNaming>> {
  const settings = orRefuse(await namingSettings(db));
  return { ...settings, version: versionOf(settings) };
}

/** Changes what names have to keep to. */
export async function changeNaming(
  { db }: Context,
  { body: { version, ...body }, caller }: Request<typeof putNaming>,
): Promise<Answer<typeof putNaming>> {
  const wanted = { ...body, reserved: [...new Set(body.reserved.filter((name) => name !== ""))] };
  await db.transaction(async (tx) => {
    await lockHouse(tx);
    const before = orRefuse(await namingSettings(tx));
    refuseStale(before, version);
    await storeNaming(tx, wanted.nameLimit, wanted.reserved, wanted.convention);
    await record(tx, {
      actorId: caller.id,
      actor: caller.name,
      action: "change naming",
      sentence: () =>
        t("edits.changedTheNamingRulesThe", {
          name: caller.name,
          convention: wanted.convention,
          nameLimit: wanted.nameLimit,
        }),
      before,
      after: wanted,
    });
  });
  return { ...wanted, version: versionOf(wanted) };
}

async function namingSettings(db: Queries) {
  const found = await loadHouse(db);
  if (found === undefined) return refused(503, "not-set-up", t("shared.thisHouseIsNotSet"));
  const { nameLimit, reservedNames: reserved, convention } = found;
  return { nameLimit, reserved, convention };
}
