import { join } from "node:path";
import { build, type Plugin } from "vite";

const SOURCE = join(import.meta.dirname, "src", "offline", "serviceWorker.ts");

/** Builds the service worker behind the pages, as one file that knows the names of all others. */
export function serviceWorker(): Plugin {
  let assets: string[] = [];
  let outDir = "dist";
  return {
    name: "service-worker",
    apply: "build",
    configResolved(config) {
      outDir = config.build.outDir;
    },
    writeBundle(_options, bundle) {
      assets = Object.keys(bundle)
        .filter((name) => name.startsWith("assets/"))
        .map((name) => `/${name}`);
    },
    async closeBundle() {
      await build({
        configFile: false,
        logLevel: "warn",
        define: { __ASSETS__: JSON.stringify(assets), "process.env.NODE_ENV": JSON.stringify("production") },
        publicDir: false,
        build: {
          outDir,
          emptyOutDir: false,
          rolldownOptions: { input: SOURCE, output: { format: "iife", entryFileNames: "sw.js" } },
        },
      });
    },
  };
}
