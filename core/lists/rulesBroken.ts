import type { Message } from "@amigo/language/message";
import type { FactIndex } from "../facts/factIndex";
import { brokenInvariants } from "../posting/invariants/allInvariants";
import type { Invariant } from "../posting/invariants/invariant";
import { wantedLists } from "./sharedWanted";
import type { WantedList } from "./wantedLists";
import { whoLeads } from "./whoLeads";

/** A house as it is or would be: everybody, the lists that follow from it, and who runs each, found out once for all of them. */
export interface HouseOfLists {
  index: FactIndex;
  lists: ReadonlyMap<string, WantedList>;
  whoRuns: ReturnType<typeof whoLeads>;
}

/** Returns the lists of a house, and how to ask who runs each. */
export function houseOfLists(index: FactIndex): HouseOfLists {
  return { index, lists: wantedLists(index), whoRuns: whoLeads(index) };
}

/** What is wrong between the rules of a list, as the house wants it. */
export function rulesBroken(
  list: WantedList,
  { index, whoRuns }: HouseOfLists,
  insideDomains: readonly string[],
): { invariant: Invariant; sentence: Message }[] {
  return brokenInvariants(
    {
      kind: list.kind,
      rules: list.rules,
      hasLead: whoRuns(list).leads.length > 0,
      insideDomains,
    },
    index.invariantsOff,
  );
}
