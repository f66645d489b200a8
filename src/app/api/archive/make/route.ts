import { rm } from "node:fs/promises";

import type { ArchiveStep } from "@/contract/archive";
import { houseDatabase } from "@/platform/db/connection";
import { newArchiveFile } from "@/platform/http/archive-files";
import { refusal, route, writer } from "@/platform/http/http";
import { tellAsItGoes } from "@/platform/http/told";
import { makeArchive } from "@/features/archive/make";
import { mustBeConfirmed } from "@/features/account/sessions";

/**
 * Writes the whole workshop as one file and reads it back before it is offered; for leads who typed their
 * password again.
 */
async function post(request: Request): Promise<Response> {
  const who = await writer(request);
  if ("response" in who) return who.response;
  if (who.actor.role !== "lead") return refusal({ code: "not-allowed", role: who.actor.role });
  mustBeConfirmed(who.actor);
  return tellAsItGoes<ArchiveStep>(request, { what: "POST archive/make", by: who.actor }, async (tell) => {
    const { key, path } = await newArchiveFile();
    try {
      return { ok: true, value: { key, ...(await makeArchive(houseDatabase(), path, tell)) } };
    } catch (error) {
      await rm(path, { force: true });
      throw error;
    }
  });
}

export const POST = route("POST archive/make", post);
