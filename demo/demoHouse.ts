import { readFile } from "node:fs/promises";
import { join } from "node:path";
import type { DemoHouse } from "@amigo/server/demoHouse";
import { loadDemo } from "./loadDemo";
import { SAMPLE_SHEETS, SAMPLES_FOLDER } from "./samples";
import { demoZone } from "./zone";

/** Copperwheel Circus School, as the server offers it. */
export const demoHouse: DemoHouse = {
  load: loadDemo,
  zone: demoZone,
  samples: SAMPLE_SHEETS,
  readSample: async (name) =>
    SAMPLE_SHEETS.some((sample) => sample.name === name)
      ? readFile(join(SAMPLES_FOLDER, name))
      : undefined,
};
