const swc = (tsx) => [
  "@swc/jest",
  {
    jsc: { target: "es2022", parser: { syntax: "typescript", tsx }, transform: { react: { runtime: "automatic" } } },
    module: { type: "es6" },
  },
];

/** Unit tests: core without anything, db and server against the throwaway database that scripts/test.mjs starts. */
export default {
  testEnvironment: "node",
  testMatch: ["<rootDir>/{core,db,server,app,scripts}/**/*.test.ts"],
  extensionsToTreatAsEsm: [".ts", ".tsx"],
  transform: {
    "^.+\\.ts$": swc(false),
    // Papers are drawn in the same way as pages.
    "^.+\\.tsx$": swc(true),
  },
  moduleNameMapper: { "^~(core|server|db|app)/(.*)$": "<rootDir>/$1/$2" },
  modulePathIgnorePatterns: ["<rootDir>/build", "<rootDir>/.data"],
  // A database that two suites keep busy is slow, not wrong.
  testTimeout: 20_000,
  reporters: ["default", "<rootDir>/scripts/lib/jest-tally.mjs"],
};
