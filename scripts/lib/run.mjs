import { spawnSync } from "node:child_process";
import { createServer } from "node:net";

const isRoot = () => process.getuid?.() === 0;

/** Says what is wrong and what to do, and ends. */
export function fail(message) {
  console.error(`\nBirdcage: ${message}`);
  process.exit(1);
}

/** Runs a command to its end; its output is shown only when it fails. */
export function must(command, args, options = {}) {
  const run = spawnSync(command, args, { encoding: "utf8", ...options });
  if (run.status !== 0) {
    const said = [run.stdout, run.stderr, run.error?.message].filter(Boolean).join("\n").trim();
    fail(`"${command} ${args.join(" ")}" failed.\n${said}`);
  }
  return run.stdout ?? "";
}

let aptUpdated = false;

/** Installs Debian packages, as root or through sudo when it asks for no password. */
export function aptInstall(...packages) {
  console.log(`Installing ${packages.join(", ")} from Debian ...`);
  const sudo = isRoot() ? [] : ["sudo", "-n"];
  const apt = (args) => {
    const [command, ...rest] = [...sudo, "apt-get", ...args];
    return spawnSync(command, rest, {
      encoding: "utf8",
      env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" },
    });
  };
  if (!aptUpdated) apt(["update"]);
  aptUpdated = true;
  const run = apt(["install", "-y", "--no-install-recommends", ...packages]);
  if (run.status !== 0)
    fail(
      `could not install ${packages.join(", ")}. Run as root: apt-get install ${packages.join(" ")}\n${run.stderr ?? run.error?.message ?? ""}`,
    );
}

/** Whether a port of the loopback (or another host) can be had. */
export function portIsFree(port, host = "127.0.0.1") {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.once("error", () => resolve(false));
    probe.listen(port, host, () => probe.close(() => resolve(true)));
  });
}

/** The wished port if it is free, or the next one that is. */
export async function freePort(wished, host) {
  for (let port = wished; port < wished + 200; port++) if (await portIsFree(port, host)) return port;
  return fail(`no free port from ${wished} to ${wished + 199}.`);
}

export const alive = (pid) => {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return error.code === "EPERM";
  }
};
