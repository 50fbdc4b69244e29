import type { Fact } from "../facts/fact";
import { wholeName, type PersonName } from "../sheet/splitName";
import { fold } from "../text/fold";
import { byPrecedence, type Telling } from "./precedence";
import { nameKey } from "./sameName";

/** What several rows say of one thing of a student, settled by precedence. */
export class Tellings {
  private readonly byKey = new Map<
    string,
    { subject: string; kind: "name" | "level" | "site"; told: Telling<string | PersonName>[] }
  >();

  tell(
    subject: string,
    kind: "name" | "level" | "site",
    telling: Telling<string | PersonName>,
  ): void {
    const key = `${subject}|${kind}`;
    const entry = this.byKey.get(key);
    if (entry === undefined) this.byKey.set(key, { subject, kind, told: [telling] });
    else if (
      !entry.told.some(
        (other) =>
          other.loose !== true && other.answered === "" && saysSame(other.value, telling.value),
      )
    )
      entry.told.push(telling);
  }

  settle(): Fact[] {
    return [...this.byKey.values()].flatMap(({ subject, kind, told }) => {
      const [first] = rankTellings(told);
      return first === undefined
        ? []
        : [{ subject, kind, ref: "", value: first.value, origin: first.origin } as Fact];
    });
  }

  /** What two sources of one rank say differently. */
  disputed(): {
    subject: string;
    kind: "name" | "level" | "site";
    told: Telling<string | PersonName>[];
  }[] {
    return [...this.byKey.values()].flatMap(({ subject, kind, told }) => {
      if (told.length < 2) return [];
      const [first, ...rest] = rankTellings(told);
      if (
        first === undefined ||
        first.answered !== "" ||
        (first.origin.from === "row" && first.origin.corrected !== undefined)
      )
        return [];
      const others = rest.filter(
        (other) =>
          other.answered === "" &&
          other.loose !== true &&
          other.place !== first.place &&
          !saysSame(other.value, first.value),
      );
      return others.length === 0 ? [] : [{ subject, kind, told: [first, ...others] }];
    });
  }
}

/** A name by which somebody was only known again counts where no roster gives one. */
function rankTellings(
  told: readonly Telling<string | PersonName>[],
): readonly Telling<string | PersonName>[] {
  if (told.length < 2) return told;
  const ranked = byPrecedence(told);
  return [
    ...ranked.filter(({ loose }) => loose !== true),
    ...ranked.filter(({ loose }) => loose === true),
  ];
}

/** Whether two sources mean the same by what they write; a name with lost letters contradicts nobody. */
function saysSame(one: string | PersonName, other: string | PersonName): boolean {
  if (typeof one === "string" || typeof other === "string")
    return typeof one === typeof other && fold(String(one)) === fold(String(other));
  return (
    nameKey(one) === nameKey(other) ||
    wholeName(one).includes("?") ||
    wholeName(other).includes("?")
  );
}
