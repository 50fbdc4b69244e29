import { readFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { serveStatic } from "@hono/node-server/serve-static";
import type { Hono } from "hono";
import { Refusal } from "./fault";
import { PLACES } from "./places";
import { t } from "../texts/t";

/** Addresses that only files have; those of pages may end with a secret, which can hold a dot. */
const FILE = /^\/assets\/|\.(js|mjs|css|map|json|svg|png|jpe?g|ico|woff2?|txt|xml|webmanifest)$/i;
const FOLDER = fileURLToPath(new URL("../../web/dist", import.meta.url));

/**
 * Serves the built pages: their files, as Brotli or gzip where the browser takes it, and the start page at every other address. A file
 * of the pages that isn't there is 404 and kept by nobody: it belongs to another version, and would be taken for the file itself.
 */
export function servePages(app: Hono): void {
  app.use("/assets/*", async (http, next) => {
    await next();
    if (http.res.ok) http.header("Cache-Control", "public, max-age=31536000, immutable");
  });
  app.use(serveStatic({ root: FOLDER, precompressed: true }));
  app.get("*", (http) => {
    if (FILE.test(http.req.path)) throw new Refusal(404, "not-found", t("app.noSuchFile"));
    // At an address of no page the page says so to people, and the status to programs.
    return http.html(startPage(), PLACES.has(http.req.path.split("/")[1] ?? "") ? 200 : 404);
  });
}

let page: string | undefined;

function startPage(): string {
  page ??= readFileSync(join(FOLDER, "index.html"), "utf8");
  return page;
}
