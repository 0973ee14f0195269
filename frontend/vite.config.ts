import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";
import { packedAssets } from "./packedAssets.ts";
import { pageWords } from "./pageWords.ts";
import { serviceWorker } from "./serviceWorkerBuild.ts";

const FORMS =
  /src[\\/]components[\\/](Pick|CountField|Takeover|HazardScreen|FindingTicks|InstrumentPick|NeedFields|Fold|HeatFields|CameBack|RunningClock)\./;
const SHARED = /src[\\/](components[\\/](?!Plot|plotPicture|ScanDialog|SumPicture|LogDrop)|api|theme|words|catalogue)/;

const TESTS = ["src/**/*.test.{ts,tsx}"];
/** Their pages send behind the hands, which goes on after a test; the others share their modules, which is quicker. */
const ALONE = ["src/**/{TrayPass,WaitingEntries,places,waiting}.test.{ts,tsx}"];

export default defineConfig({
  plugins: [react(), pageWords(), packedAssets(), serviceWorker()],
  html: { cspNonce: "__CSP_NONCE__" },
  build: {
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 900,
    rolldownOptions: {
      output: {
        codeSplitting: {
          includeDependenciesRecursively: false,
          // What several pages share comes as two files: on a late network each file more is a wait more. The first page
          // does without the forms; the drawing of curves and the camera stay with the few pages that use them.
          groups: [
            { name: "forms", test: FORMS, minShareCount: 2, priority: 2 },
            { name: "shared", test: SHARED, minShareCount: 3, priority: 1 },
          ],
        },
      },
    },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8420" } },
  test: {
    environment: "happy-dom",
    setupFiles: "src/testing/setup.ts",
    testTimeout: 30_000,
    projects: [
      { extends: true, test: { name: "sharing", isolate: false, include: TESTS, exclude: ALONE } },
      { extends: true, test: { name: "alone", include: ALONE } },
    ],
  },
});
