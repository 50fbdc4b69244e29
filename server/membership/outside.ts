import { isInside } from "@amigo/core/address/isInside";
import type { Rules } from "@amigo/core/posting/rules/rule";
import type { Queries } from "../db/connect";
import { namesBehind } from "./namesBehind";
import { t } from "../texts/t";
import { insideDomains } from "../db/insideDomains";

/** What the rules of a list say of some addresses that are to come onto it. */
export interface Admission {
  /** Outside addresses that may not be on it. */
  refused: Set<string>;
  /** Outside addresses that wait until a lead agrees. */
  waiting: Set<string>;
}

/** Tells which of some addresses the list takes: inside ones always, outside ones as its rules have it. */
export async function admit(
  db: Queries,
  list: { seasonId: number; rules: Rules },
  addresses: readonly string[],
): Promise<Admission> {
  const inside = await insideDomains(db);
  const outside = addresses.filter((address) => !isInside(address, inside));
  if (list.rules.outside === "none") return { refused: new Set(outside), waiting: new Set() };
  const names =
    list.rules.outside === "guardians" ? await namesBehind(db, list.seasonId, outside) : undefined;
  const refused = new Set(
    outside.filter((address) => names !== undefined && names.get(address)?.role !== "guardian"),
  );
  return {
    refused,
    waiting: new Set(
      list.rules.outsideWait === "lead" ? outside.filter((address) => !refused.has(address)) : [],
    ),
  };
}

/** Why an outside address may not be on a list, in words. */
export function outsideWords(rules: Rules): string {
  return rules.outside === "none"
    ? t("membership.thisListTakesInsideAddresses")
    : t("membership.ofOutsideAddressesThisList");
}
