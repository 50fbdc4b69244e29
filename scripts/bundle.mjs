// Bundles our programs, so that they begin several times as fast as from the TypeScript sources: they needn't find,
// translate and load a thousand files.
import { rmSync } from "node:fs";
import { readFile } from "node:fs/promises";
import { join, relative } from "node:path";
import { build } from "esbuild";
import { BUNDLES, PROGRAMS, ROOT } from "./run.mjs";

/** Tells a bundle the address of the folder that all of this is in, also once that was moved. */
const FINDS_ROOT =
  'const amigoRoot = import.meta.url.replace(/[^/]+\\/dist\\/(parts\\/)?[^/]+$/, "");';

/** Keeps `import.meta.url` the address of the source file, so that what lies beside a source is still found from the bundle. */
const sourceAddresses = {
  name: "source-addresses",
  setup(bundle) {
    bundle.onLoad({ filter: /\.ts$/ }, async ({ path }) => {
      const source = await readFile(path, "utf8");
      if (path.includes("node_modules") || !source.includes("import.meta.url")) return undefined;
      const address = `(amigoRoot + ${JSON.stringify(relative(ROOT, path).replaceAll("\\", "/"))})`;
      return { contents: source.replaceAll("import.meta.url", address), loader: "ts" };
    });
  },
};

/** Finds our own packages, which are bundled also where those of others are not. */
const ownPackages = {
  name: "own-packages",
  setup(bundle) {
    bundle.onResolve({ filter: /^@amigo\// }, ({ path }) => ({
      path: join(ROOT, `${path.slice("@amigo/".length)}.ts`),
    }));
  },
};

const options = {
  outExtension: { ".js": ".mjs" },
  bundle: true,
  platform: "node",
  target: "node20",
  format: "esm",
  logLevel: "error",
};

rmSync(join(BUNDLES, "parts"), { recursive: true, force: true });
// The desk's thread and the sandbox's process are started again and again: all that they need is in one file each.
await build({
  ...options,
  entryPoints: {
    desk: join(ROOT, "server/desk/worker.ts"),
    sandbox: join(ROOT, "server/sandbox/child.ts"),
  },
  outdir: BUNDLES,
  // What only some tasks need is a file of its own, loaded when it is first needed.
  splitting: true,
  chunkNames: "parts/[hash]",
  // Packages that were written for CommonJS ask for Node's modules by require.
  banner: {
    js: `import { createRequire as requireOf } from "node:module"; const require = requireOf(import.meta.url); ${FINDS_ROOT}`,
  },
  // Native code, and what pg would only use elsewhere.
  external: ["@node-rs/argon2", "pg-native", "cloudflare:sockets"],
  plugins: [sourceAddresses],
});

// Programs take packages of others from where they are installed, for some read files that lie beside them.
await build({
  ...options,
  entryPoints: Object.entries(PROGRAMS).map(([source, file]) => ({
    in: join(ROOT, source),
    out: file.replace(/\.mjs$/, ""),
  })),
  outdir: ROOT,
  packages: "external",
  // A bundled program begins its threads from bundles, too.
  define: { "process.env.AMIGO_BUNDLES": "amigoBundles" },
  banner: {
    js: `import { fileURLToPath as amigoPathOf } from "node:url"; ${FINDS_ROOT} const amigoBundles = amigoPathOf(amigoRoot + "server/dist");`,
  },
  plugins: [ownPackages, sourceAddresses],
});
