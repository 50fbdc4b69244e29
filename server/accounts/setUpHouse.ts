import { refused, type Refused } from "../refused";
import { inTransaction } from "../db/inTransaction";
import { staffLanguage } from "@amigo/language/staff";
import type { z } from "zod";
import type { SetUp } from "@amigo/contract/accounts";
import { passwordFault } from "./passwordFault";
import { hashPassword } from "./password";
import type { Database } from "../db/connect";
import { storeFirst } from "../facts/first";
import { storeStaff } from "../facts/staff";
import { notify } from "../events/events";
import { record } from "../events/record";
import { inStaffLanguage } from "../texts/inLanguage";
import { t } from "../texts/t";
import { storeHouse, storeFirstSeason, storeFirstCoordinator } from "./queries";

/**
 * Sets up a house that holds nothing yet, with its season, recipes and first coordinator.
 *
 * @returns the coordinator's account id
 * Refused with 409 when the house is set up already.
 */
export async function setUpHouse(
  db: Database,
  wanted: z.output<typeof SetUp>,
): Promise<string | Refused> {
  const fault = passwordFault(wanted.password, [wanted.name, wanted.email, wanted.house]);
  if (fault !== undefined) return refused(400, "password/weak", fault, "password");
  const passwordHash = await hashPassword(wanted.password);
  return inTransaction(db, async (tx) => {
    const made = await storeHouse(tx, wanted);
    if (made.length === 0) return refused(409, "set-up/done", t("accounts.thisHouseIsSetUp"));
    const current = await storeFirstSeason(tx, wanted.season);
    await inStaffLanguage(
      () => storeFirst(tx, current?.id ?? 0, wanted.name),
      staffLanguage(wanted.language) ?? "en",
    );
    const first = await storeFirstCoordinator(tx, wanted.name, wanted.email, passwordHash);
    await storeStaff(
      tx,
      [{ id: first?.id ?? "", name: wanted.name, email: wanted.email, site: "" }],
      wanted.name,
    );
    await record(tx, {
      actorId: first?.id ?? null,
      actor: wanted.name,
      action: "set up",
      sentence: () => t("accounts.setUp", { name: wanted.name, house: wanted.house }),
    });
    await notify(tx, "house");
    return first?.id ?? "";
  });
}
