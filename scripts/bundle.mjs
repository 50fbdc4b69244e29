// Bundles the code of the desk's thread and of the sandbox's process into one file each. Both begin five times as fast from
// there as from the TypeScript sources: neither has to find, translate and load a thousand files.
import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { build } from "esbuild";
import { BUNDLES, ROOT } from "./run.mjs";

/** Keeps `import.meta.url` the address of the source file, so that what lies beside a source is still found from the bundle. */
const sourceAddresses = {
  name: "source-addresses",
  setup(bundle) {
    bundle.onLoad({ filter: /\.ts$/ }, async ({ path }) => {
      const source = await readFile(path, "utf8");
      if (path.includes("node_modules") || !source.includes("import.meta.url")) return undefined;
      const address = JSON.stringify(pathToFileURL(path).href);
      return { contents: source.replaceAll("import.meta.url", address), loader: "ts" };
    });
  },
};

await build({
  entryPoints: {
    desk: join(ROOT, "server/desk/worker.ts"),
    sandbox: join(ROOT, "server/sandbox/child.ts"),
  },
  outdir: BUNDLES,
  outExtension: { ".js": ".mjs" },
  bundle: true,
  platform: "node",
  target: "node20",
  format: "esm",
  // Packages that were written for CommonJS ask for Node's modules by require.
  banner: {
    js: 'import { createRequire as requireOf } from "node:module"; const require = requireOf(import.meta.url);',
  },
  // Native code, and what pg would only use elsewhere.
  external: ["@node-rs/argon2", "pg-native", "cloudflare:sockets"],
  plugins: [sourceAddresses],
  logLevel: "error",
});
