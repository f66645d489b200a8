import type { Metadata } from "next";
import { notFound } from "next/navigation";

import { houseDatabase } from "@/platform/db/connection";
import { questionByToken } from "@/features/questions/page/view";
import { loadSettings } from "@/features/settings/settings";
import { CustomerQuestion } from "@/features/questions/ui/CustomerQuestion";
import { say } from "@/words/frame";

export const metadata: Metadata = {
  title: say("aQuestionAboutYourController"),
  robots: { index: false, follow: false },
};

export default async function QuestionPage({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  const question = await questionByToken(houseDatabase(), token);
  if (!question) notFound();
  const { settings } = await loadSettings(houseDatabase());
  const { locale, timeZone, currency, shopName, town } = settings;
  return (
    <CustomerQuestion
      question={question}
      token={token}
      shop={{ locale, timeZone, currency, shopName, town }}
    />
  );
}
