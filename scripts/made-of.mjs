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
const list = execFileSync(
  "npm",
  ["sbom", "--sbom-format", "cyclonedx", "--sbom-type", "application", "--omit", "dev"],
  {
    cwd: root,
    maxBuffer: 64 * 1024 ** 2,
    stdio: ["ignore", "pipe", "ignore"],
  },
);
const made = JSON.parse(list);
made.metadata.component.name = made.metadata.component["bom-ref"].split("@")[0];
writeFileSync(join(out, "made-of.cdx.json"), JSON.stringify(made, null, 1));

const lock = JSON.parse(readFileSync(join(root, "package-lock.json"), "utf8"));
const said = Object.entries(lock.packages)
  .filter(([path, about]) => path && !about.dev && !about.devOptional && existsSync(join(root, path, "package.json")))
  .map(([path]) => [path, JSON.parse(readFileSync(join(root, path, "package.json"), "utf8"))])
  .sort(([, a], [, b]) => a.name.localeCompare(b.name))
  .map(([path, about]) => {
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
