import { execFileSync } from "node:child_process";
import { existsSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { root } from "./lib/packages.mjs";

/**
 * What the built application is made of, for whoever asks: the packages it runs with, as CycloneDX (ECMA-424) by npm itself, and their licences in
 * their own words. Part of the build.
 */

const out = join(root, "build", "client");
mkdirSync(out, { recursive: true });
const lock = JSON.parse(readFileSync(join(root, "package-lock.json"), "utf8"));
/** Installed, and not for building alone: their folders. npm’s own way of leaving those out takes some along that both need. */
const run = Object.entries(lock.packages)
  .filter(([path, about]) => path && !about.dev && !about.devOptional && existsSync(join(root, path, "package.json")))
  .map(([path]) => [path, JSON.parse(readFileSync(join(root, path, "package.json"), "utf8"))])
  .sort(([, a], [, b]) => a.name.localeCompare(b.name));

const list = execFileSync(
  "npm",
  ["sbom", "--sbom-format", "cyclonedx", "--sbom-type", "application", "--include", "dev"],
  {
    cwd: root,
    // Built for production, npm would leave out by itself what was asked for.
    env: { ...process.env, NODE_ENV: "development" },
    maxBuffer: 64 * 1024 ** 2,
    stdio: ["ignore", "pipe", "ignore"],
  },
);
const made = JSON.parse(list);
const [own] = made.metadata.component["bom-ref"].split("@");
made.metadata.component.name = own;
const kept = new Set(run.map(([, { name, version }]) => `${name}@${version}`));
made.components = made.components.filter(({ name, version, group }) =>
  kept.has(`${group ? `${group}/` : ""}${name}@${version}`),
);
const refs = new Set([made.metadata.component["bom-ref"], ...made.components.map((one) => one["bom-ref"])]);
made.dependencies = made.dependencies
  .filter(({ ref }) => refs.has(ref))
  .map(({ ref, dependsOn = [] }) => ({ ref, dependsOn: dependsOn.filter((other) => refs.has(other)) }));
writeFileSync(join(out, "made-of.cdx.json"), JSON.stringify(made, null, 1));

const said = run.map(([path, about]) => {
  const file = readdirSync(join(root, path)).find(
    (name) => /^(licen[cs]e|copying)/i.test(name) && !/\.(js|ts|json)$/.test(name),
  );
  const text = file ? readFileSync(join(root, path, file), "utf8").trim() : "Its package brings no text of it along.";
  return `${about.name} ${about.version}\n${typeof about.license === "string" ? about.license : "see below"}\n\n${text}\n`;
});
writeFileSync(
  join(out, "licences.txt"),
  `Packages that Nimble Gauge runs with, and their licences: ${said.length}.\n\n${said.join(`\n${"-".repeat(80)}\n\n`)}`,
);
