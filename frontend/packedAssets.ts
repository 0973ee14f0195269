import { readFile, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { promisify } from "node:util";
import { brotliCompress, constants } from "node:zlib";
import type { Plugin } from "vite";

const pack = promisify(brotliCompress);
/** The most there is would make the build six seconds longer, and files a tenth smaller. */
const QUALITY = { params: { [constants.BROTLI_PARAM_QUALITY]: 9 } };
const SMALLER_WHEN_PACKED = /\.(js|css|svg|wasm)$/;

/** Each built file once more, packed small: the server sends it as it lies there. */
export function packedAssets(): Plugin {
  return {
    name: "packed-assets",
    apply: "build",
    async writeBundle({ dir = "dist" }, bundle) {
      const names = Object.keys(bundle).filter((name) => name.startsWith("assets/") && SMALLER_WHEN_PACKED.test(name));
      await Promise.all(
        names.map(async (name) => {
          const path = join(dir, name);
          await writeFile(`${path}.br`, await pack(await readFile(path), QUALITY));
        }),
      );
    },
  };
}
