import { spawn } from "node:child_process";

/** Runs a command to its end; resolves with its exit code. Output goes to the terminal unless `quiet`. */
export function run(command, args, options = {}) {
  const { quiet, ...rest } = options;
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, {
      stdio: quiet ? ["ignore", "ignore", "inherit"] : ["ignore", "inherit", "inherit"],
      ...rest,
    });
    child.on("error", reject);
    child.on("exit", (code, signal) => resolve(signal ? 1 : (code ?? 1)));
  });
}

/** Like {@link run}, but a failure is an error. */
export async function must(command, args, options = {}) {
  const code = await run(command, args, options);
  if (code !== 0) throw new Error(`${command} ${args.join(" ")} ended with ${code}.`);
}
