import type { Message } from "@amigo/language/message";
import type { FactIndex } from "../facts/indexFacts";
import { brokenInvariants } from "../posting/invariants/allInvariants";
import type { Invariant } from "../posting/invariants/invariant";
import type { WantedList } from "./wantedLists";
import { whoLeads } from "./whoLeads";

/** What is wrong between the rules of a list, as the house wants it. */
export function rulesBroken(
  list: WantedList,
  index: FactIndex,
  insideDomain: string,
): { invariant: Invariant; sentence: Message }[] {
  return brokenInvariants(
    {
      kind: list.kind,
      rules: list.rules,
      hasLead: whoLeads(index)(list).leads.length > 0,
      insideDomain,
    },
    index.invariantsOff,
  );
}
