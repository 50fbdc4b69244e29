import { message } from "@amigo/language/message";
import type { Guard } from "./guard";
import { shareInWords } from "./limits";

/** A list would lose more than the share, and more than the few, that the house lets go without a question. */
export const listLosesMany: Guard = {
  id: "list-loses-many",
  check: ({ lists, limits: { listFew, listShare } }) =>
    lists
      .filter(
        ({ before, leaves, joins }) =>
          leaves > listFew && leaves > before * listShare && before - leaves + joins > 0,
      )
      .map(({ key, name, before, leaves }) => ({
        id: `list-loses-many ${key}`,
        about: name,
        count: leaves,
        sentence: message("step.listLosesMany", {
          leaves,
          before,
          share: shareInWords(listShare),
          few: listFew,
        }),
      })),
};
