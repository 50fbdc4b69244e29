import { message } from "@amigo/language/message";
import type { Fact } from "../../facts/fact";
import type { Cause } from "../cause";

/** What was kept on or off a list until a day that is over. */
export function keptCauses(adds: readonly Fact[], removes: readonly Fact[]): Cause[] {
  const one = (fact: Fact, ends: boolean): Cause[] => {
    if (fact.kind !== "kept") return [];
    const { side, lastDay, reason } = fact.value;
    const detail = message("step.kept", {
      side,
      until: lastDay === "" ? null : { day: lastDay },
      ends: !ends ? "no" : lastDay === "" ? "taken back" : "over",
    });
    return [
      {
        key: `kept ${fact.subject} ${fact.ref} ${side} ${ends ? "ends" : "begins"} ${lastDay}`,
        kind: ends ? "expired" : "corrected",
        subject: fact.subject,
        title: fact.ref,
        detail,
        sentence: message("step.keptSentence", {
          address: fact.ref,
          kept: detail,
          reason,
        }),
        group: "",
        adds: ends ? [] : [fact],
        removes: ends ? [fact] : [],
      },
    ];
  };
  const begun = new Set(adds.map((fact) => `${fact.subject} ${fact.ref}`));
  return [
    ...removes
      .filter((fact) => !begun.has(`${fact.subject} ${fact.ref}`))
      .flatMap((fact) => one(fact, true)),
    ...adds.flatMap((fact) => one(fact, false)),
  ];
}
