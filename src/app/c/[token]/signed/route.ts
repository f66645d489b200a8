import { houseDatabase } from "@/platform/db/connection";
import { certificateByToken } from "@/features/certificate/view";
import { route } from "@/platform/http/http";
import { say } from "@/words/frame";

/** The signed content as a compact JSON Web Signature, to be checked by anybody with any tool. */
async function get(_request: Request, { params }: { params: Promise<{ token: string }> }): Promise<Response> {
  const certificate = await certificateByToken(houseDatabase(), (await params).token);
  if (!certificate || certificate.jws === "")
    return new Response(say("thereIsNoSignedCertificateAt"), { status: 404 });
  return new Response(certificate.jws, {
    headers: { "Content-Type": "application/jose", "Cache-Control": "no-store" },
  });
}

export const GET = route("GET c/[token]/signed", get);
