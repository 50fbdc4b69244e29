import { message } from "@amigo/language/message";
import type { Guard } from "./guard";

/** One address turns up for many families: a school's own address in a column of parents', or a slip of copying. */
export const addressOfMany: Guard = {
  id: "address-of-many",
  check: ({ shared, limits }) =>
    shared
      .filter(({ families, before }) => families > limits.familiesOfAddress && families > before)
      .map(({ address, families }) => ({
        id: `address-of-many ${address}`,
        about: address,
        count: families,
        sentence: message("step.addressOfMany", { families }),
      })),
};
