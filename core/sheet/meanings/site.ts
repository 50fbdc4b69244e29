import { message } from "@amigo/language/message";
import type { Meaning } from "./meaning";

export const site: Meaning = {
  id: "site",
  label: message("sheet.meaningSite"),
  slotted: false,
  ofChild: true,
  title: { what: { site: 1 }, unsaid: 1, bare: 0 },
  cells: ({ mark, distinct, address, number, values, count, yesNo, date, phone, titled }) => {
    if (count === 0) return 0;
    if (address > 0 || number > 0.2 || date > 0.1 || phone > 0.1 || mark > 0.8) return -8;
    return (
      (values > 8 ? -2 : 0) -
      (distinct > 0.4 ? 3 : 0) -
      (yesNo > 0.5 ? 5 : 0) -
      (titled > 0.3 ? 3 : 0) -
      0.7
    );
  },
};
