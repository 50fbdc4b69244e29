import { rowOfMention } from "../rowOfMention";
import { each, localTime, message } from "@amigo/language/message";
import { nameOf, type FactIndex } from "../../facts/factIndex";
import type { StandingAddresses } from "../standingAddresses";
import type { Question, SettledByHand, SettledFact } from "../question";
import { question } from "./valueQuestion";

/** Which address is right? Asked where answers differ from child to child, and where two rosters differ. */
export function askAboutAddresses(
  standing: ReadonlyMap<string, StandingAddresses>,
  settled: readonly SettledByHand[],
  index: () => FactIndex,
): Question[] {
  return [...standing].flatMap(([subject, { holds, disputed }]): Question[] => {
    const mentions = [...holds, ...disputed];
    const addresses = [...new Set(mentions.flatMap(({ address }) => address ?? []))];
    if (addresses.length < 2) return [];
    const person = index().people.get(subject);
    const fact = (address: string) => ({ ref: address, value: "" as const });
    const settle = (chosen: readonly string[]): SettledFact => ({
      subject,
      kind: "address",
      facts: chosen.map(fact),
    });
    return question(
      {
        key: `which address ${subject} ${[...addresses].sort().join(" ")}`,
        kind: "which value",
        subject,
        about:
          disputed.length === 0
            ? message("identity.addressesByChild", {
                name: nameOf(person),
                answered: holds.some(({ record }) => record.answered !== ""),
              })
            : message("identity.addressesBySource", { name: nameOf(person) }),
        sides: mentions.map((mention) => ({
          title: mention.address ?? "",
          lines: [
            message("identity.forStudent", { name: nameOf(index().people.get(mention.student)) }),
            ...(mention.record.answered === ""
              ? []
              : [
                  message("identity.answered", {
                    when: localTime(mention.record.answeredAs ?? mention.record.answered),
                  }),
                ]),
          ],
          where: {
            from: "row",
            source: mention.source,
            reading: mention.reading,
            sheet: mention.record.sheet,
            row: rowOfMention(mention).row,
            meaning: "guardian.address",
            slot: mention.slot,
          },
        })),
        choices: [
          ...addresses.map((address) => ({
            id: address,
            label: address,
            settle: settle([address]),
          })),
          {
            id: "all",
            label: message("identity.allOf", { count: addresses.length }),
            settle: settle(addresses),
          },
        ],
        meanwhile:
          disputed.length === 0
            ? message("identity.mailGoesTo", { addresses: each(addresses) })
            : message("identity.mailGoesToOlder", {
                addresses: each(holds.flatMap(({ address }) => address ?? [])),
              }),
      },
      settled,
    );
  });
}
