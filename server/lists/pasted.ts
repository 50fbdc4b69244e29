import { FAULT_SENTENCE } from "@amigo/core/address/faultSentence";
import { loadHouse } from "../db/houseQueries";
import { learnDomains } from "@amigo/core/address/learnDomains";
import { readAddress } from "@amigo/core/address/readAddress";
import { nameOf, type Person } from "@amigo/core/facts/factIndex";
import { nameKey } from "@amigo/core/identity/sameName";
import { splitName } from "@amigo/core/sheet/splitName";
import { splitAddresses } from "@amigo/core/address/splitAddresses";
import type { PastedLine } from "@amigo/contract/members";
import type { Rules } from "@amigo/core/posting/rules/rule";
import type { z } from "zod";
import type { Queries } from "../db/connect";
import type { Caller } from "../callers/caller";
import { knownPeople } from "../membership/knownPeople";
import { namesBehind } from "../membership/namesBehind";
import { admit, outsideWords } from "../membership/outside";
import { t } from "../texts/t";
import { listMemberAddresses } from "../membership/queries";

type Line = z.output<typeof PastedLine>;

/** Tells of each address in a pasted text what would become of it on a list; nothing of the text goes missing. */
export async function readPasted(
  db: Queries,
  caller: Caller,
  found: { id: string; seasonId: number; rules: Rules },
  text: string,
): Promise<{ lines: Line[]; leftOver: string[] }> {
  const members = new Set((await listMemberAddresses(db, found.id)).map(({ address }) => address));
  const { pieces, names: given, leftOver } = splitAddresses(text);
  const house = await loadHouse(db);
  const domains = learnDomains([...members, ...pieces], house?.listDomain);
  const readings = pieces.map((written, at) => ({
    written,
    given: given[at] ?? "",
    read: readAddress(written, domains),
  }));
  const names = await namesBehind(db, found.seasonId, [
    ...new Set(readings.flatMap(({ read }) => (read.answer === "unusable" ? [] : [read.address]))),
  ]);
  // Who is behind an address is told to those who may know of that person; else anybody could ask who is at one.
  const people = [...(await knownPeople(db, caller)).people.values()];
  const known = new Set(people.flatMap(({ addresses }) => [...addresses]));
  const byName = new Map<string, Person[]>();
  for (const person of people)
    byName.set(nameKey(person), [...(byName.get(nameKey(person)) ?? []), person]);
  const { refused, waiting } = await admit(
    db,
    found,
    readings.flatMap(({ read }) => (read.answer === "unusable" ? [] : [read.address])),
  );
  const seen = new Set<string>();
  const lines: Line[] = [];
  for (const { written, given: name, read } of readings) {
    if (read.answer === "unusable") {
      lines.push({
        written,
        address: "",
        outcome: "unusable",
        sentence: t("lists.faultAndWhy", { fault: FAULT_SENTENCE[read.fault], why: read.why }),
        who: name,
      });
      continue;
    }
    const { address } = read;
    const line = (outcome: Line["outcome"], sentence: string, who = ""): void => {
      lines.push({ written, address, outcome, sentence, who });
    };
    if (seen.has(address)) {
      line("twice", t("lists.itIsInThisText"));
      continue;
    }
    seen.add(address);
    const who = (known.has(address) ? names.get(address)?.name : undefined) ?? name;
    const [namesake, another] = name === "" ? [] : (byName.get(nameKey(splitName(name))) ?? []);
    const other =
      namesake !== undefined && another === undefined && !namesake.addresses.has(address)
        ? t("lists.isKnownHere", { name: nameOf(namesake), addresses: namesake.addresses.size })
        : "";
    if (members.has(address)) line("already there", t("lists.itIsOnThisList"), who);
    else if (refused.has(address))
      line("outside", t("lists.itIsAnOutsideAddress2", { why: outsideWords(found.rules) }), who);
    else if (waiting.has(address)) line("waits", t("lists.itIsAnOutsideAddress"), who);
    else if (read.answer === "probably")
      line(
        "repaired",
        t("lists.readAsCheckWhetherThat", { fault: FAULT_SENTENCE[read.fault], address }),
        who,
      );
    else if (read.tidied[0] !== undefined)
      line("repaired", t("lists.readAs", { fault: FAULT_SENTENCE[read.tidied[0]], address }), who);
    else line("to add", other, who);
  }
  return { lines, leftOver };
}
