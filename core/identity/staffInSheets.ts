import { hasAccount } from "../facts/subjects";
import type { Fact } from "../facts/fact";
import type { Origin } from "../facts/origin";
import type { FactIndex } from "../facts/factIndex";
import type { MeaningId } from "../sheet/meanings/meaning";
import { splitName } from "../sheet/splitName";
import { hash } from "../text/hash";
import { nameKey } from "./sameName";
import type { RowRecord } from "../sheet/rowRecord";

/** The coach of a row: the name, or the address alone where no name is given. */
export function coachOf({ coach, coachAddress }: RowRecord): string {
  return coach !== "" ? coach : (coachAddress ?? "");
}

/**
 * The teachers and coaches whose addresses sheets give, as people on the staff, so that they can be on lists without an account.
 * Who has an account is a person on the staff already, with the address of the account.
 */
export function staffInSheets(
  rows: readonly {
    record: RowRecord;
    at: (meaning: MeaningId, slot?: number) => Origin;
  }[],
  stand: FactIndex,
): Fact[] {
  const accounts = new Set<string>();
  for (const person of stand.people.values())
    if (person.role === "staff" && hasAccount(person.id)) {
      accounts.add(nameKey(person));
      for (const address of person.addresses) accounts.add(address);
    }
  const seen = new Set<string>();
  return rows.flatMap(({ record, at }): Fact[] => {
    const { coachAddress } = record;
    const name = splitName(coachOf(record));
    const key = nameKey(name);
    if (coachAddress === undefined || seen.has(`${key} ${coachAddress}`)) return [];
    seen.add(`${key} ${coachAddress}`);
    if (accounts.has(key) || accounts.has(coachAddress)) return [];
    const subject = `t-${hash(`staff ${key}`)}`;
    const origin = at("coach.address");
    return [
      { subject, kind: "staff", ref: "", value: "", origin },
      { subject, kind: "name", ref: "", value: name, origin: at("coach") },
      { subject, kind: "address", ref: coachAddress, value: "", origin },
    ];
  });
}
