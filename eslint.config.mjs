import js from "@eslint/js";
import jsdoc from "eslint-plugin-jsdoc";
import regexp from "eslint-plugin-regexp";
import { numbersSayTheirUnit } from "./scripts/lib/numbers-say-their-unit.mjs";
import { defineConfig, globalIgnores } from "eslint/config";
import tseslint from "typescript-eslint";

export default defineConfig(
  globalIgnores([
    "e2e/programs-client.d.ts",
    "build/",
    ".react-router/",
    ".data/",
    "node_modules/",
    "test-results/",
    "playwright-report/",
  ]),
  js.configs.recommended,
  tseslint.configs.recommended,
  {
    rules: {
      "@typescript-eslint/no-unused-vars": ["error", { argsIgnorePattern: "^_" }],
      "@typescript-eslint/consistent-type-imports": "error",
      "no-console": ["error", { allow: ["error"] }],
    },
  },
  {
    // A text of any length that a person types costs linear time: no pattern goes back over what it has read, or begins anew at each place.
    files: ["app/**", "server/**", "core/**", "db/**"],
    ignores: ["**/*.test.ts"],
    plugins: { regexp },
    rules: {
      "regexp/no-super-linear-backtracking": ["error", { report: "potential" }],
      "regexp/no-super-linear-move": ["error", { report: "potential" }],
    },
  },
  {
    // One way in, one way to write: what is posted goes through server/body.ts and server/web.ts, a write through server/transaction.ts.
    files: ["app/**", "server/**"],
    ignores: ["**/*.test.ts", "server/body.ts", "server/transaction.ts"],
    rules: {
      "no-restricted-syntax": [
        "error",
        {
          selector: "CallExpression[callee.property.name='formData']",
          message: "Read it with formOf of server/body.ts.",
        },
        { selector: "CallExpression[callee.property.name='transaction']", message: "Write with inTransaction." },
      ],
    },
  },
  {
    files: ["app/**", "server/**"],
    ignores: ["server/web.ts"],
    rules: {
      "no-restricted-imports": [
        "error",
        { paths: [{ name: "@conform-to/zod/v4", message: "Understand it with submissionOf of server/web.ts." }] },
      ],
    },
  },
  {
    // What core offers says what it is, in which units and ranges, what it throws, and where it comes from.
    files: ["core/**"],
    ignores: ["**/*.test.ts", "**/*.fixture.ts"],
    plugins: { jsdoc, core: { rules: { "numbers-say-their-unit": numbersSayTheirUnit } } },
    rules: {
      "jsdoc/require-jsdoc": [
        "error",
        { publicOnly: true, require: { FunctionDeclaration: true, ArrowFunctionExpression: true } },
      ],
      "jsdoc/require-description": "error",
      "jsdoc/require-throws": "error",
      "jsdoc/check-tag-names": "error",
      "jsdoc/empty-tags": "error",
      "core/numbers-say-their-unit": "error",
    },
  },
  {
    files: ["e2e/**"],
    rules: {
      "no-restricted-syntax": [
        "error",
        {
          selector: "CallExpression[callee.property.name='waitForTimeout']",
          message: "Wait for the page, not the clock.",
        },
      ],
    },
  },
  {
    files: ["scripts/**", "server/*.mjs", "*.mjs", "*.cjs"],
    languageOptions: {
      globals: {
        process: "readonly",
        console: "readonly",
        URL: "readonly",
        setTimeout: "readonly",
        fetch: "readonly",
        performance: "readonly",
        module: "writable",
      },
    },
    rules: { "no-console": "off" },
  },
);
