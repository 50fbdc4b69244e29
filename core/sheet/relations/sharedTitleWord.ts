import type { Evidence } from "../columns/evidence";
import type { MeaningId } from "../meanings/meaning";
import { columnsOf, type Relation } from "./relation";

const SAME = 2.5;
const OTHER = -2.5;

/** A strange word that stands over an address and over names says whose both are, in whatever language it is. */
export const sharedTitleWord: Relation = {
  id: "shared title word",
  points: (labels, evidence) => {
    let points = 0;
    for (const address of columnsOf(labels, "guardian.address", "student.address")) {
      const owner = ownerOf(labels[address]);
      for (const name of namesBeside(address, evidence)) {
        const whose = ownerOf(labels[name]);
        if (whose !== "") points += whose === owner ? SAME : OTHER;
      }
    }
    return points;
  },
};

function ownerOf(meaning: MeaningId | undefined): string {
  const [who = ""] = (meaning ?? "").split(".");
  return who === "student" || who === "guardian" ? who : "";
}

const FOUND = new WeakMap<Evidence, Map<number, readonly number[]>>();

/** The columns of names that share a strange word of their titles with an address, where other names don't. */
function namesBeside(address: number, evidence: Evidence): readonly number[] {
  const known = FOUND.get(evidence) ?? new Map<number, readonly number[]>();
  FOUND.set(evidence, known);
  const before = known.get(address);
  if (before !== undefined) return before;
  const words = new Set(evidence.columns[address]?.title.strange);
  const names = evidence.columns.flatMap(({ profile }, index) =>
    profile.nameLike > 0.8 && profile.address === 0 ? [index] : [],
  );
  const beside = names.filter((index) =>
    evidence.columns[index]?.title.strange.some((word) => words.has(word)),
  );
  const found = beside.length === names.length ? [] : beside;
  known.set(address, found);
  return found;
}
