import { meaningOf } from "../meanings/allMeanings";
import type { MeaningId } from "../meanings/meaning";
import type { Relation } from "./relation";

const TWICE = -9;
const MOST_GUARDIANS = 4;

/** No meaning twice, but for guardians, marks and further columns, and for the children of a row with several. */
export const onlyOnce: Relation = {
  id: "only once",
  points: (labels, { children, columns }) => {
    const counts = new Map<string, number>();
    labels.forEach((label, index) => {
      if (label === "unread" || label === "private") return;
      const child =
        children > 1 && meaningOf(label).ofChild === true ? (columns[index]?.title.slot ?? "") : "";
      const key = child === "" ? label : `${label} ${child}`;
      counts.set(key, (counts.get(key) ?? 0) + 1);
    });
    let points = 0;
    for (const [key, count] of counts) {
      if (count === 1) continue;
      const { slotted, most = MOST_GUARDIANS } = meaningOf(key.split(" ")[0] as MeaningId);
      points += TWICE * Math.max(0, count - (slotted ? most : 1));
    }
    return points;
  },
};
