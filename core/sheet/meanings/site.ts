import type { Meaning } from "./meaning";

export const site: Meaning = {
  id: "site",
  label: "Site",
  slotted: false,
  titles: [[/^(site|campus|building|location|school site|branch|venue)$/, 1]],
  cells: ({ distinct, address, number }) =>
    address > 0 || number > 0.2 || distinct > 0.4 ? 0.1 : 1,
};
