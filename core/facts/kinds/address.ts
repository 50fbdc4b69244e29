import { message } from "@amigo/language/message";
import * as z from "zod";
import { knownPerson, personIn } from "../factIndex";
import type { Kind } from "./kind";
import { ofSomebody } from "./ofSomebody";

/** Somebody is reached at an address, which is the ref. */
export const address: Kind<"address", string, ""> = {
  kind: "address",
  about: "person",
  value: z.literal(""),
  addTo: (index, { subject, ref }) => {
    personIn(index, subject).addresses.add(ref);
  },
  removeFrom: (index, { subject, ref }) => {
    knownPerson(index, subject)?.addresses.delete(ref);
  },
  needs: ofSomebody,
  words: ({ ref }) => ({
    begins: message("facts.isReachedAt", { address: ref }),
    ends: message("facts.isNoLongerReachedAt", { address: ref }),
  }),
  called: ({ subject, ref }, name) =>
    message("facts.addressOf", { who: name(subject), address: ref }),
  personal: "address",
  search: ({ ref }) => ref.toLowerCase(),
};
