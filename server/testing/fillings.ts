import { demoHouse } from "@amigo/demo/demoHouse";
import { connect } from "../db/connect";
import { migrate } from "../db/migrate";
import type { Filling } from "./testDatabase";

/** Amigo's tables, and no house. */
export const NO_HOUSE: Filling = { name: "no_house", fill: migrate };

/** The demo house as it is on its first day, before any sheet. */
export const DEMO_HOUSE: Filling = {
  name: "demo_house",
  fill: async (url) => {
    await migrate(url);
    const { db, close } = connect(url);
    await demoHouse.load(db).finally(close);
  },
};
