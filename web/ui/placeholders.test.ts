import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { expect, test } from "vitest";

const WEB = new URL("..", import.meta.url).pathname;
/** Words of the demo scenario, which no other school's pages may show. */
const SCENARIO =
  /copperwheel|trapeze|juggl|circus|tumbling|wire walk|night parade|harvest show|friends of the ring|mill loft|big barn|brightpost|oakmail|fernpost|mailhaven|lettr\.example/i;

test("no page has an example of the demo scenario in its own text", () => {
  // The page of widgets is for developers alone and in no build.
  const files = readdirSync(WEB, { recursive: true, encoding: "utf8" }).filter(
    (file) =>
      /\.(tsx|ts|html|js|css)$/.test(file) &&
      !/\.test\.|(^|\/)(dist|node_modules|widgets)\//.test(file),
  );
  const found = files.flatMap((file) =>
    readFileSync(join(WEB, file), "utf8")
      .split("\n")
      .flatMap((line, at) => (SCENARIO.test(line) ? [`${file}:${at + 1}`] : [])),
  );
  expect(files.length).toBeGreaterThan(80);
  expect(found).toEqual([]);
});
