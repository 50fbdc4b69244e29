import { brotliCompress, constants, gzip } from "node:zlib";
import { readFile, readdir, writeFile } from "node:fs/promises";
import { join, resolve } from "node:path";
import { promisify } from "node:util";
import type { Plugin } from "vite";

const COMPRESSIBLE = /\.(js|css|svg|json)$/;
/** Below this many octets nothing is gained. */
const LEAST = 1024;

/** Writes each built file a second and a third time, as Brotli and gzip, so that the server needn't compress it at each request. */
export function compressAssets(): Plugin {
  let folder = "";
  return {
    name: "compress-assets",
    apply: "build",
    configResolved(config) {
      folder = resolve(config.root, config.build.outDir);
    },
    async closeBundle() {
      const files = await readdir(folder, { recursive: true });
      await Promise.all(
        files.filter((file) => COMPRESSIBLE.test(file)).map((file) => compress(join(folder, file))),
      );
    },
  };
}

async function compress(file: string): Promise<void> {
  const plain = await readFile(file);
  if (plain.length < LEAST) return;
  const [small, smaller] = await Promise.all([
    promisify(gzip)(plain, { level: constants.Z_BEST_COMPRESSION }),
    promisify(brotliCompress)(plain, {
      params: { [constants.BROTLI_PARAM_SIZE_HINT]: plain.length },
    }),
  ]);
  await Promise.all([writeFile(`${file}.gz`, small), writeFile(`${file}.br`, smaller)]);
}
