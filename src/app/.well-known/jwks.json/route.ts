import { houseDatabase } from "@/platform/db/connection";
import { publicKeys } from "@/features/certificate/signing";
import { route } from "@/platform/http/http";

/** The public keys of certificates, retired ones too (RFC 7517). */
async function get(): Promise<Response> {
  return Response.json(await publicKeys(houseDatabase()), {
    headers: { "Content-Type": "application/jwk-set+json", "Cache-Control": "no-cache" },
  });
}

export const GET = route("GET .well-known/jwks.json", get);
