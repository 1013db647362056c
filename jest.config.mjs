/** Unit and property tests of core, command and demo; the database's and the browser's tests have their own runs. */
const transform = { "^.+\\.(ts|tsx|mjs|js)$": ["@swc/jest", { jsc: { target: "es2022", parser: { syntax: "typescript", tsx: true } }, module: { type: "commonjs" } }] };

export default {
  testEnvironment: "node",
  testMatch: ["<rootDir>/{core,paper,cli,db,demo,scripts,web}/test/**/*.test.ts"],
  setupFiles: ["<rootDir>/scripts/jest-seed.mjs"],
  transform,
  transformIgnorePatterns: ["/node_modules/(?!(delaunator|robust-predicates|kdbush|flatbush|flatqueue|udsv|fflate|polylabel|tinyqueue)/)"],
  extensionsToTreatAsEsm: [],
  moduleNameMapper: { "^@bramble/core/(.*)$": "<rootDir>/core/src/$1", "^@bramble/core$": "<rootDir>/core/src/index.ts", "^@bramble/paper$": "<rootDir>/paper/src/index.ts" },
  testTimeout: 60000,
};
