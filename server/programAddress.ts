import { join } from "node:path";
import { pathToFileURL } from "node:url";

/** The folder with the bundles that `scripts/bundle.mjs` made; undefined where programs run from their sources. */
const BUNDLES = process.env.AMIGO_BUNDLES;

/**
 * Returns the address of the file that a thread or process of ours begins with.
 *
 * @param name   of its bundle
 * @param source the file that begins it from its sources, where there are no bundles
 */
export function programAddress(name: "desk" | "sandbox", source: URL): URL {
  return BUNDLES === undefined ? source : pathToFileURL(join(BUNDLES, `${name}.mjs`));
}
