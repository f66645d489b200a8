import { database } from "@/db/connection";
import { publicAddress } from "@/door/address";
import { certificatePdf } from "@/service/documents";
import { certificateByToken } from "@/service/release";
import { loadSettings } from "@/service/settings";

/** A certificate as PDF, by the same address as its page. */
export async function GET(_request: Request, { params }: { params: Promise<{ token: string }> }): Promise<Response> {
  const { token } = await params;
  const certificate = await certificateByToken(database(), token);
  if (!certificate) return new Response("There is no certificate at this address.\n", { status: 404 });
  const { settings } = await loadSettings(database());
  const pdf = await certificatePdf(
    certificate.body,
    `${await publicAddress()}/c/${token}`,
    settings,
    certificate.revokedAt !== null,
  );
  return new Response(new Uint8Array(pdf), {
    headers: {
      "Content-Type": "application/pdf",
      "Content-Disposition": `inline; filename="certificate-${certificate.body.tag}.pdf"`,
      "Cache-Control": "no-store",
    },
  });
}
