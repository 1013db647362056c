/** Unit and property tests of core, command and demo; the database's and the browser's tests have their own runs. */
import { createRequire } from "node:module";
import path from "node:path";

/** The reader of PDF gives its main part as a module alone, which is transformed like others. */
const unpdf = path.dirname(createRequire(path.resolve("paper/src/index.ts")).resolve("unpdf"));
const transform = {
  "^.+\\.(ts|tsx|mjs|js)$": [
    "@swc/jest",
    { jsc: { target: "es2022", parser: { syntax: "typescript", tsx: true } }, module: { type: "commonjs" } },
  ],
};

export default {
  testEnvironment: "node",
  testMatch: ["<rootDir>/{core,paper,cli,db,demo,scripts,web}/test/**/*.test.ts"],
  setupFiles: ["<rootDir>/scripts/jest-seed.mjs"],
  transform,
  transformIgnorePatterns: [
    "/node_modules/(?!(unpdf|delaunator|robust-predicates|kdbush|flatbush|flatqueue|udsv|fflate|polylabel|tinyqueue)/)",
  ],
  extensionsToTreatAsEsm: [],
  moduleNameMapper: {
    "^@bramble/core/(.*)$": "<rootDir>/core/src/$1",
    "^@bramble/core$": "<rootDir>/core/src/index.ts",
    "^unpdf/pdfjs$": path.join(unpdf, "pdfjs.mjs"),
    "^@bramble/paper/(.*)$": "<rootDir>/paper/src/$1",
    "^@bramble/paper$": "<rootDir>/paper/src/index.ts",
  },
  // Tests run in a context of their own, in which each look at a global takes long: these are handed to every module.
  sandboxInjectedGlobals: (
    "Math Number Infinity Object Array Map Set WeakMap String JSON Error BigInt " +
    "Float64Array Int32Array Uint32Array Uint16Array Uint8Array ArrayBuffer DataView"
  ).split(" "),
  testTimeout: 60000,
};
