import { execFileSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { must } from "./run.mjs";
import { say, stop } from "./say.mjs";

export const root = new URL("../..", import.meta.url).pathname.replace(/\/$/, "");
export const isRoot = process.getuid?.() === 0;

/** Installs Debian packages that are missing: as root by itself, else it says the one command and stops. */
export async function needDebian(packages, present) {
  if (present()) return;
  const command = `apt-get install -y --no-install-recommends ${packages.join(" ")}`;
  if (!isRoot) stop(`Missing: ${packages.join(", ")}. Run this once, then start again:\n\n  sudo ${command}\n`);
  say(`Installing ${packages.join(", ")} …`);
  // No cluster of Debian's own: the project keeps a private one.
  const config = "/etc/postgresql-common/createcluster.conf";
  if (packages.includes("postgresql") && !existsSync(config)) {
    mkdirSync("/etc/postgresql-common", { recursive: true });
    writeFileSync(config, "create_main_cluster = false\n");
  }
  const env = { ...process.env, DEBIAN_FRONTEND: "noninteractive" };
  await must("apt-get", ["update", "-qq"], { quiet: true, env });
  await must("apt-get", command.split(" ").slice(1), { quiet: true, env });
  if (!present()) stop(`${packages.join(", ")} could not be installed. Install by hand, then start again.`);
}

/** `npm ci`, when the lock file is not the one that was installed last. */
export async function needModules() {
  const lock = createHash("sha256")
    .update(readFileSync(join(root, "package-lock.json")))
    .digest("hex");
  const stamp = join(root, "node_modules", ".installed-lock");
  if (existsSync(stamp) && readFileSync(stamp, "utf8") === lock) return;
  say("Installing packages (npm ci) …");
  await must("npm", ["ci", "--no-audit", "--no-fund"], { cwd: root, quiet: true });
  writeFileSync(stamp, lock);
}

/** Builds when a source file has changed since the last build. */
export async function needBuild() {
  const now = fingerprint(
    ["app", "server", "core", "db", "public"],
    [
      "package-lock.json",
      "vite.config.ts",
      "vite.aside.config.ts",
      "vite.worker.config.ts",
      "react-router.config.ts",
      "tsconfig.json",
    ],
  );
  const stamp = join(root, "build", ".stamp");
  if (existsSync(stamp) && readFileSync(stamp, "utf8") === now) return;
  say("Building …");
  await must("npm", ["run", "build"], { cwd: root, quiet: true, env: { ...process.env, NODE_ENV: "production" } });
  writeFileSync(stamp, now);
}

/** One hash over names and contents of files. */
export function fingerprint(folders, files = []) {
  const hash = createHash("sha256");
  const add = (path) => {
    if (statSync(path).isDirectory()) for (const name of readdirSync(path).sort()) add(join(path, name));
    else hash.update(path).update(readFileSync(path));
  };
  for (const name of [...folders, ...files]) if (existsSync(join(root, name))) add(join(root, name));
  return hash.digest("hex");
}

/** Debian's browser without a window: what the tests, the pictures and the bench drive. Half the size and start-up of the whole one. */
export const BROWSER = "/usr/bin/chromium-headless-shell";

/** Installs it if it is missing. */
export function needBrowser() {
  return needDebian(["chromium-headless-shell"], () => existsSync(BROWSER));
}

/** A program on PATH, or undefined. */
export function which(name) {
  try {
    return execFileSync("sh", ["-c", `command -v ${name}`], { encoding: "utf8" }).trim() || undefined;
  } catch {
    return undefined;
  }
}
