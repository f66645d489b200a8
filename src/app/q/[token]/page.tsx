import type { Metadata } from "next";
import { notFound } from "next/navigation";

import { houseDatabase } from "@/db/connection";
import { questionByToken } from "@/service/questions";
import { loadSettings } from "@/service/settings";
import { CustomerQuestion } from "@/ui/question/CustomerQuestion";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("aQuestionAboutYourController"), robots: { index: false, follow: false } };

export default async function QuestionPage({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  const question = await questionByToken(houseDatabase(), token);
  if (!question) notFound();
  const { settings } = await loadSettings(houseDatabase());
  const { locale, timeZone, currency, shopName, town } = settings;
  return <CustomerQuestion question={question} token={token} shop={{ locale, timeZone, currency, shopName, town }} />;
}
