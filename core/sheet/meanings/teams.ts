import type { Meaning } from "./meaning";

export const teams: Meaning = {
  id: "teams",
  label: "Teams",
  slotted: false,
  titles: [
    [/^(team|teams|troupe|troupes|squad|crew|ensemble)$/, 1],
    [/\b(team|troupe|squad)s?\b/, 0.8],
  ],
  cells: ({ distinct, address, letters }) =>
    address > 0.1 ? 0 : letters * (distinct < 0.6 ? 1 : 0.3),
};
