import type { FactIndex } from "@amigo/core/facts/factIndex";
import { wantedLists } from "@amigo/core/lists/sharedWanted";
import { faultsOfName, isHard, nameFaultSentence } from "@amigo/core/naming/nameFault";
import { refused, type Refused } from "../refused";
import { nameByConvention, type HouseNaming } from "../membership/nameWanted";
import { t } from "../texts/t";
import type { NamedList } from "@amigo/core/naming/nameLists";

/** Returns why a new name can't be: no list may have it, or the convention, where it binds, doesn't make it. */
export function checkNames(
  standing: FactIndex,
  after: FactIndex,
  naming: HouseNaming,
  convention: "advises" | "binds",
): Refused | undefined {
  const before = wantedLists(standing);
  const wanted = wantedLists(after);
  const titles = new Map<string, string>();
  const byConvention =
    convention === "binds"
      ? new Map(nameByConvention(wanted.values(), after, naming).map((made) => [made.key, made]))
      : undefined;
  for (const { key, name, title, open } of wanted.values()) {
    if (name === undefined || !open) continue;
    const twin = titles.get(name);
    if (twin !== undefined)
      return refused(
        422,
        "edit/name",
        t("rounds.bothAndWouldBeCalled", { twin, title, name }),
        "name",
      );
    titles.set(name, title);
    if (before.get(key)?.name === name && before.get(key)?.open === true) continue;
    const wrong = checkNewName({ key, name, title }, after, naming, byConvention?.get(key));
    if (wrong !== undefined) return wrong;
  }
  return undefined;
}

/** Returns what is wrong with the new name of one list: malformed, another list's, or not what the convention makes. */
function checkNewName(
  { key, name, title }: { key: string; name: string; title: string },
  after: FactIndex,
  { rules }: HouseNaming,
  made: NamedList | undefined,
): Refused | undefined {
  const [fault] = faultsOfName(name, rules).filter(isHard);
  if (fault !== undefined)
    return refused(422, "edit/name", nameFaultSentence(fault, name, rules), "name");
  const holder = rules.heldBy(name);
  if (holder !== undefined && holder.key !== key && after.aliases.get(key)?.has(name) !== true)
    return refused(
      422,
      "edit/name",
      t("rounds.isBroken", {
        title,
        broken: nameFaultSentence(holder.now ? "taken" : "recent", name, rules),
      }),
      "name",
    );
  const allowed = after.exemptions.get(key)?.get("convention")?.allowed;
  if (made !== undefined && name !== made.name && name !== made.proposal && name !== allowed)
    return refused(
      422,
      "edit/convention",
      t("rounds.theHousesConventionBindsIs", { title, proposal: made.proposal }),
      "convention",
    );
  return undefined;
}
