import { type ChildProcess, spawn, spawnSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { join } from "node:path";

import { expect } from "@playwright/test";

/** A new workshop by npm start's program, in a folder of its own, with one lead and nothing in it. */

export const LEAD = { name: "greta", password: "nine tame herons walk" };

export type OwnWorkshop = {
  base: string;
  folder: string;
  keeper: ChildProcess;
  env: NodeJS.ProcessEnv;
  end: () => Promise<void>;
};

/** @param port the first that is tried; one for each file, since they may run side by side */
export async function ownWorkshop(port: number): Promise<OwnWorkshop> {
  const folder = mkdtempSync(join(process.getuid?.() === 0 ? "/var/tmp" : "/tmp", "birdcage-own-"));
  spawnSync("chmod", ["755", folder]);
  const { DATABASE_URL: _none, ...rest } = process.env;
  const env: NodeJS.ProcessEnv = {
    ...rest,
    BIRDCAGE_DATA: folder,
    PORT: String(port),
    BACKUP_AT: "never",
    TRUSTED_PROXIES: "loopback",
  };
  const keeper = spawn(process.execPath, ["scripts/start.mjs"], {
    env,
    stdio: ["ignore", "pipe", "inherit"],
  });
  const base = await new Promise<string>((resolve, reject) => {
    let said = "";
    keeper.stdout.on("data", (c: Buffer) => {
      said += c.toString();
      const found = /(http:\/\/\S+)\n/.exec(said);
      if (found) resolve(found[1]!);
    });
    keeper.once("exit", (code) => reject(new Error(`it ended with ${code}: ${said}`)));
  });
  const added = spawnSync(process.execPath, ["scripts/user-add.mjs", "--name", LEAD.name], {
    env,
    input: `${LEAD.password}\n`,
    encoding: "utf8",
  });
  expect(added.status, added.stderr).toBe(0);
  const own: OwnWorkshop = {
    base,
    folder,
    keeper,
    env,
    end: async () => {
      own.keeper.kill("SIGCONT");
      const ended = new Promise((resolve) => own.keeper.once("exit", resolve));
      own.keeper.kill("SIGTERM");
      await ended;
      rmSync(folder, { recursive: true, force: true });
    },
  };
  return own;
}
