import type { Guard } from "./guard";

/** A list may lose this share of its members, and this many, without a question. */
const SHARE = 0.1;
const FEW = 3;

/** A list would lose more than a tenth of its members, and more than three. */
export const listLosesMany: Guard = {
  id: "list-loses-many",
  check: ({ lists }) => lists
    .filter(({ before, leaves, joins }) => leaves > FEW && leaves > before * SHARE && before - leaves + joins > 0)
    .map(({ key, name, before, leaves }) => ({ id: `list-loses-many ${key}`, about: name, count: leaves, sentence: `would lose ${leaves} of ${before}: more than a tenth, and more than ${FEW}.` })),
};
