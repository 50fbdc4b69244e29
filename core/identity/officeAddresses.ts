import { rowOfMention } from "./rowOfMention";
import { message } from "@amigo/language/message";
import { wholeName } from "../sheet/splitName";
import { fold } from "../text/fold";
import type { Mention } from "./clusterGuardians";
import type { PersonLink, PersonMark } from "./personLink";
import type { Question } from "./question";
import type { RowRecord } from "../sheet/rowRecord";

/** An address stands with many children from this many on, of this many different surnames. */
const CHILDREN = 6;
const SURNAMES = 4;

/** Addresses in guardians' columns that are probably a teacher's or the office's. */
export interface OfficeAddresses {
  /** Addresses that aren't taken for a guardian's. */
  set: ReadonlySet<string>;
  questions: Question[];
}

/**
 * Finds the addresses that stand with many children of different surnames. Until somebody says that one is a guardian's, it
 * is nobody's: it would make one family of a whole class, and count them all as reached.
 */
export function officeAddresses(
  mentions: readonly Mention[],
  names: ReadonlyMap<string, RowRecord>,
  links: readonly PersonLink[],
): OfficeAddresses {
  const by = new Map<string, { students: Set<string>; first: Mention }>();
  for (const mention of mentions) {
    if (mention.address === undefined) continue;
    const found = by.get(mention.address);
    if (found === undefined)
      by.set(mention.address, { students: new Set([mention.student]), first: mention });
    else found.students.add(mention.student);
  }
  const set = new Set<string>();
  const questions: Question[] = [];
  for (const [address, { students, first }] of by) {
    if (students.size < CHILDREN) continue;
    const records = [...students].flatMap((id) => names.get(id) ?? []);
    const surnames = new Set(records.map(({ name }) => fold(name.family)));
    if (surnames.size < SURNAMES) continue;
    const said = [...links]
      .reverse()
      .find(({ left, says }) => isAbout(left, address) && (says === "here" || says === "gone"));
    if (said?.says === "here") continue;
    set.add(address);
    if (said !== undefined) continue;
    const mark: PersonMark = {
      role: "guardian",
      names: [],
      numbers: [],
      students: [],
      addresses: [address],
      places: [],
    };
    const say = (says: "here" | "gone"): PersonLink => ({ says, left: mark, right: mark });
    questions.push({
      key: `whose address ${address}`,
      kind: "whose address",
      subject: "",
      about: message("identity.whoseAddress", {
        address,
        children: students.size,
        surnames: surnames.size,
      }),
      sides: [
        {
          title: [wholeName(first.name), address].filter((part) => part !== "").join(", "),
          lines: records
            .slice(0, 4)
            .map(({ name, classes }) => [wholeName(name), ...classes].join(", ")),
          where: {
            from: "row",
            source: first.source,
            reading: first.reading,
            sheet: first.record.sheet,
            row: rowOfMention(first).row,
            meaning: "guardian.address",
            slot: first.slot,
          },
        },
      ],
      choices: [
        {
          id: "gone",
          label: message("identity.ofTheOffice"),
          answer: { does: "link", links: [say("gone")] },
        },
        {
          id: "here",
          label: message("identity.ofAGuardian"),
          answer: { does: "link", links: [say("here")] },
        },
      ],
      meanwhile: message("identity.countsAsNobodys"),
    });
  }
  return { set, questions };
}

function isAbout(mark: PersonMark, address: string): boolean {
  return mark.role === "guardian" && mark.names.length === 0 && mark.addresses.includes(address);
}
