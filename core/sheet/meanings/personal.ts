import { message } from "@amigo/language/message";
import type { Meaning } from "./meaning";

/** What Amigo has no use for and nobody wants to find in it: health, birth dates, phones, streets. Its cells are never stored. */
export const personal: Meaning = {
  id: "private",
  label: message("sheet.meaningNotImported"),
  slotted: false,
  title: {
    what: {
      health: 1,
      birth: 1,
      phone: 1,
      street: 1,
      postcode: 1,
      town: 0.9,
      gender: 1,
      private: 1,
      money: 1,
      notes: 0.8,
      address: 0.7,
      consent: 0.8,
    },
    unsaid: 1,
    bare: 0,
  },
  cells: ({ phone, date, moment, gender, street, sentence, years, count, address, yesNo }) =>
    count === 0
      ? 0
      : address > 0.3
        ? -4
        : (phone > 0.5 ? 3 : 0) +
          (date > 0.5 && moment < 0.5 ? 2.5 + (years > 2 ? 2 : 0) : 0) +
          (gender > 0.8 ? 2.5 : 0) +
          (street > 0.5 ? 1.5 : 0) +
          (sentence > 0.3 ? 1 : 0) +
          (yesNo > 0.8 ? 0.8 : 0) -
          0.1,
};
