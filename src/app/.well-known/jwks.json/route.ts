import { houseDatabase } from "@/db/connection";
import { publicKeys } from "@/service/signing";

/** The public keys of certificates, retired ones too (RFC 7517). */
export async function GET(): Promise<Response> {
  return Response.json(await publicKeys(houseDatabase()), {
    headers: { "Content-Type": "application/jwk-set+json", "Cache-Control": "no-cache" },
  });
}
