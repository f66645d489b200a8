import type { Metadata } from "next";
import { notFound } from "next/navigation";

import { houseDatabase } from "@/platform/db/connection";
import { currentPerson } from "@/platform/http/session";
import { certificateByToken } from "@/features/certificate/view";
import { loadSettings } from "@/features/settings/settings";
import { Certificate } from "@/features/certificate/ui/Certificate";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("certificate"), robots: { index: false, follow: false } };

export default async function CertificatePage({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  const certificate = await certificateByToken(houseDatabase(), token);
  if (!certificate) notFound();
  const { settings } = await loadSettings(houseDatabase());
  return (
    <Certificate
      certificate={certificate}
      address={`/c/${token}`}
      shop={settings}
      signedIn={(await currentPerson()) !== null}
    />
  );
}
