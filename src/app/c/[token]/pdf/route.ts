import { houseDatabase } from "@/platform/db/connection";
import { publicAddress } from "@/platform/http/address";
import { pdfFile, route } from "@/platform/http/http";
import { onPaper } from "@/platform/http/paper";
import { certificateByToken } from "@/features/certificate/view";
import { loadSettings } from "@/features/settings/settings";
import { say } from "@/words/frame";

/** A certificate as PDF, by the same address as its page. */
async function get(_request: Request, { params }: { params: Promise<{ token: string }> }): Promise<Response> {
  const { token } = await params;
  const certificate = await certificateByToken(houseDatabase(), token);
  if (!certificate) return new Response(say("thereIsNoCertificateAtThis"), { status: 404 });
  const { settings } = await loadSettings(houseDatabase());
  const pdf = await onPaper("printCertificate", [
    certificate.body,
    `${await publicAddress()}/c/${token}`,
    settings,
    {
      revoked: certificate.revokedAt !== null,
      superseded: certificate.supersededBy !== null,
      signature: certificate.signature,
      handedOn: certificate.handedOn,
    },
  ]);
  return pdfFile(pdf, `certificate-${certificate.body.tag}.pdf`);
}

export const GET = route("GET c/[token]/pdf", get);
