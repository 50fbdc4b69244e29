import { message } from "@amigo/language/message";
import type { Meaning } from "./meaning";

/** A further column of the house's own, such as an instrument: kept with each student by its title, for audiences to compare. */
export const detail: Meaning = {
  id: "detail",
  label: message("sheet.meaningFurtherColumn"),
  slotted: true,
  most: 9,
  title: { what: {}, unsaid: 1, bare: 0 },
  cells: ({
    distinct,
    count,
    values,
    address,
    phone,
    date,
    yesNo,
    mark,
    gender,
    sentence,
    counts,
    code,
    tie,
    titled,
    number,
  }) =>
    count === 0
      ? -3
      : address > 0.05 ||
          phone > 0.2 ||
          date > 0.2 ||
          yesNo > 0.6 ||
          mark > 0.5 ||
          gender > 0.7 ||
          tie > 0.5 ||
          counts > 0.6
        ? -6
        : count >= 8 && distinct <= 0.4 && values >= 2 && values <= 30 && sentence < 0.1
          ? 0.9 - (code > 0.6 || number > 0.5 ? 0.5 : 0) - (titled > 0.3 ? 2 : 0)
          : -2,
};
