import { columnsOf, type Relation } from "./relation";

/** An emergency contact is a guardian only where the sheet names no other. */
export const emergency: Relation = {
  id: "emergency contact",
  points: (labels, { columns }) => {
    const guardians = columnsOf(
      labels,
      "guardian.name",
      "guardian.given",
      "guardian.surname",
      "guardian.address",
    );
    const called = guardians.filter((index) => columns[index]?.title.whose.has("emergency"));
    return called.length > 0 && called.length < guardians.length ? -7 * called.length : 0;
  },
};
