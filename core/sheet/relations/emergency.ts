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
    const isNeeded =
      called.length === guardians.length &&
      !columns.some(
        ({ title, profile }) =>
          profile.address > 0.3 && (title.whose.has("guardian") || title.whose.has("household")),
      );
    return isNeeded ? 0 : NOT_NEEDED * called.length;
  },
};
