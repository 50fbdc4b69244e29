import { message } from "@amigo/language/message";
import { nameOf, type FactIndex } from "../../facts/factIndex";
import { wholeName, type PersonName } from "../../sheet/splitName";
import type { Telling } from "../precedence";
import type { Question, SettledByHand } from "../question";
import { question } from "./valueQuestion";

/** Two rosters say different things of a student. */
export function askAboutValues(
  disputed: readonly {
    subject: string;
    kind: "name" | "level" | "site";
    told: readonly Telling<string | PersonName>[];
  }[],
  settled: readonly SettledByHand[],
  index: () => FactIndex,
): Question[] {
  const text = (value: string | PersonName): string =>
    typeof value === "string" ? value : wholeName(value);
  return disputed.flatMap(({ subject, kind, told }) =>
    question(
      {
        key: `which ${kind} ${subject} ${told
          .map(({ value }) => text(value))
          .sort()
          .join(" | ")}`,
        kind: "which value",
        subject,
        about: message("identity.valuesBySource", {
          kind,
          name: nameOf(index().people.get(subject)),
        }),
        sides: told.map(({ value, origin }) => ({ title: text(value), lines: [], where: origin })),
        choices: told.map(({ value }) => ({
          id: text(value),
          label: text(value),
          settle: { subject, kind, facts: [{ ref: "", value }] },
        })),
        meanwhile: message("identity.olderHolds", { value: text(told[0]?.value ?? "") }),
      },
      settled,
    ),
  );
}
