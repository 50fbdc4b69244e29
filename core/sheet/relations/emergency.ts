import { columnsOf, type Relation } from "./relation";

/** More than an address or a name can gain by being somebody's. */
const NOT_NEEDED = -14;

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
    return called.length > 0 && called.length < guardians.length ? NOT_NEEDED * called.length : 0;
  },
};
