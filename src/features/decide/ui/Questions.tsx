"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import { NO, type QuestionBody } from "@/contract/question";
import type { Advice } from "@/core/decide/advise";
import { type Reminder, reminderOf } from "@/core/record/reminders";
import type { QuestionView } from "@/features/case/asked";
import { say } from "@/features/decide/words/words";
import type { DecideView } from "@/features/decide/view";
import { PapersOf } from "@/features/papers/ui/PapersOf";
import type { PaperView } from "@/features/papers/view";
import type { UnitView } from "@/features/units/view";
import { placeWords } from "@/text/names";
import { day, dayAndTime, money } from "@/text/format";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { BoundField } from "@/ui/form/BoundField";
import { Agreed } from "./Agreed";
import { Ask } from "./Ask";
import { Block, Notice, Row } from "@/ui/kit/layout";

/** Marks a choice of an option together with its like part; no option's key has it. */
const WITH_LIKE = " +";

type Props = {
  view: UnitView;
  questions: QuestionView[];
  papers: PaperView[];
  decide: DecideView;
  advice: Advice | null;
  canWork: boolean;
  publicUrl: string;
};

/** The customer's yes: what was asked and answered, and a new question, a fault at a time. */
export function Questions({ view, questions, papers, decide, advice, canWork, publicUrl }: Props) {
  const [asking, setAsking] = useState(false);
  const faults = view.faults.filter((f) => f.status === "open");
  if (view.unit.source !== "customer" && questions.length === 0) return null;
  return (
    <Block component="section" aria-label={say("customersYes")} before={3}>
      <Row gap={2} at="baseline">
        <Typography component="h2" variant="h2">
          {say("theCustomerSYes")}
        </Typography>
        {canWork && faults.length > 0 && (
          <Button size="small" variant="outlined" onClick={() => setAsking(!asking)} aria-expanded={asking}>
            {say("askCustomer", { customer: view.origin.customer ?? say("theCustomer") })}
          </Button>
        )}
      </Row>
      {asking && <Ask view={view} faults={faults} input={decide.input} onSent={() => setAsking(false)} />}
      <Agreed decide={decide} advice={advice} shop={view.settings} />
      {questions.length === 0 && !asking && (
        <Typography color="text.secondary">{say("nothingWasAskedYet")}</Typography>
      )}
      {questions.map((q) => (
        <Asked
          key={q.id}
          question={q}
          papers={papers.filter((p) => p.questionId === q.id)}
          {...{ view, canWork, publicUrl }}
        />
      ))}
    </Block>
  );
}

const STATE: Record<QuestionView["state"], string> = {
  waiting: say("waitsForAnAnswer"),
  answered: say("answered"),
  expired: say("ranOutUnanswered"),
  withdrawn: say("takenBack"),
};

type AskedProps = {
  question: QuestionView;
  papers: PaperView[];
  view: UnitView;
  canWork: boolean;
  publicUrl: string;
};

/** What Asked knows and does; the components below only show it. */
function useOneAsked({ question: q, view, canWork, publicUrl }: Omit<AskedProps, "papers">) {
  const withdraw = useDeed("question.withdraw");
  const [copied, setCopied] = useState(false);
  const shop = view.settings;
  const url = `${publicUrl}/q/${q.token}`;
  // the server's clock dates it; a page's own clock only says whether it is long ago
  const [now] = useState(() => Date.now());
  const isOpen = view.mends.some(
    (m) => m.opened && !view.recordings.some((r) => r.purpose === "full" && r.startedAt > m.at),
  );
  const reminder = reminderOf({ ...q, isOpen }, new Date(now));
  // while the unit lies open there is no need to wait until it is due
  const mayRemind = reminder.code === "due" || (isOpen && reminder.code === "later");
  const remind = useDeed("question.remind");
  const mail = `mailto:?subject=${encodeURIComponent(say("yourControllerTag", { tag: view.unit.tag }))}&body=${encodeURIComponent(mailText(q.body, url, view, shop))}`;
  return { q, canWork, withdraw, copied, setCopied, shop, url, isOpen, reminder, mayRemind, remind, mail };
}

/** What was chosen, with the like part where that was wanted too. */
const wordingOf = ({ wording, like, refresh }: QuestionView["answers"][number]): string => {
  const words = like ? say("withLike", { wording, place: placeWords(like.place) }) : wording;
  return refresh.length > 0 ? say("withARefresh", { wording: words }) : words;
};

type OneAskedState = ReturnType<typeof useOneAsked>;

function Asked(props: AskedProps) {
  const s = useOneAsked(props);
  const { q, withdraw, remind, shop, isOpen, reminder } = s;

  return (
    <Box sx={{ py: 1, borderTop: 1, borderColor: "divider" }}>
      <b>{say("questionNumber", { number: q.number })}</b>{" "}
      {say("stateSentSentAtByBy", { state: STATE[q.state], sentAt: dayAndTime(q.sentAt, shop), by: q.by })}
      {q.state === "waiting" && say("openUntilExpiresAt", { expiresAt: day(q.expiresAt, shop) })}
      {q.state === "waiting" && q.reminded.length > 0 && (
        <> {say("remindedOn", { days: q.reminded.map((at) => dayAndTime(at, shop)).join("; ") })}</>
      )}
      {q.state === "waiting" && (reminder.code !== "later" || isOpen) && (
        <Notice severity="warning" role="note" around={0.5}>
          {isOpen && say("theUnitLiesOpenAReply")} {reminderWords(reminder, shop)}
        </Notice>
      )}
      {q.body.faults.map((f) => {
        const mine = q.answers.filter((a) => a.faultId === f.faultId);
        return (
          <Box key={f.faultId} sx={{ ml: 1.5 }}>
            {say("faultNumberFound", { number: f.number, found: f.found })}
            {mine.map((a, i) => (
              <Box key={i} sx={{ fontWeight: i === mine.length - 1 ? 700 : 400 }}>
                {a.choice === NO ? say("no") : say("yes")}: {wordingOf(a)}, {a.name},{" "}
                {a.cameBy === "page" ? say("onThePage") : say("toldUs")}, {dayAndTime(a.at, shop)}
                {a.words && ` “${a.words}”`}
              </Box>
            ))}
          </Box>
        );
      })}
      <AskedKeys {...s} />
      {(q.state === "waiting" || props.papers.length > 0) && (
        <PapersOf
          kind="offer"
          papers={props.papers}
          unitId={props.view.unit.id}
          questionId={q.id}
          shop={shop}
          canWork={s.canWork && q.state !== "withdrawn"}
        />
      )}
      <Problem problem={withdraw.problem ?? remind.problem} />
    </Box>
  );
}

function reminderWords(r: Reminder, shop: Settings): string {
  if (r.code === "due") return say("aReminderIsDue");
  if (r.code === "later") return say("remindedFrom", { at: dayAndTime(r.at, shop) });
  return r.code === "often"
    ? say("remindedEnough", { count: r.count })
    : say("runsOutBefore", { at: day(r.at, shop) });
}

function AskedKeys({ q, url, setCopied, copied, mail, canWork, withdraw, mayRemind, remind }: OneAskedState) {
  return (
    (q.state === "waiting" || q.state === "answered") && (
      <Row gap={1} before={0.5} at="center">
        <Button size="small" component="a" href={`/q/${q.token}`} target="_blank">
          {say("theirPage")}
        </Button>
        <Button
          size="small"
          onClick={() => void navigator.clipboard?.writeText(url).then(() => setCopied(true))}
        >
          {copied ? say("copied") : say("copyTheAddress")}
        </Button>
        {q.state === "waiting" && mayRemind && canWork ? (
          <Button
            size="small"
            component="a"
            href={mail}
            disabled={remind.running}
            onClick={() => void remind.run({ questionId: q.id })}
          >
            {say("remindByMail")}
          </Button>
        ) : (
          <Button size="small" component="a" href={mail}>
            {say("writeAMail")}
          </Button>
        )}
        {canWork && <Told question={q} />}
        {canWork && (
          <Button
            size="small"
            color="inherit"
            disabled={withdraw.running}
            onClick={() => withdraw.run({ questionId: q.id })}
          >
            {say("takeItBack")}
          </Button>
        )}
      </Row>
    )
  );
}

function mailText(body: QuestionBody, url: string, view: UnitView, shop: Settings): string {
  const faults = body.faults.map(
    (f) =>
      `${f.number}. ${f.found}\n${f.options.map((o) => say("wordsPriceMinorAboutDaysDays", { words: o.words, priceMinor: money(o.priceMinor, shop), days: o.days, warrantyDays: o.warrantyDays })).join("\n")}`,
  );
  return say("aboutYourProfileTagFindings", {
    profile: view.profile.name,
    tag: view.unit.tag,
    findings: body.findings,
    faults: faults.join("\n"),
    url,
    shopName: shop.shopName,
    town: shop.town,
  });
}

/** What they said by voice: written down by us, with their name. */
function Told({ question }: { question: QuestionView }) {
  const deed = useDeed("question.record");
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const [choices, setChoices] = useState<Record<string, string>>({});
  const [refresh, setRefresh] = useState(false);
  if (!open)
    return (
      <Button size="small" onClick={() => setOpen(true)}>
        {say("theyToldUs")}
      </Button>
    );
  const all = question.body.faults.every((f) => choices[f.faultId]);
  return (
    <Form
      onSend={() =>
        void deed
          .run({
            questionId: question.id,
            answer: {
              name,
              words: "",
              changes: question.answers.length > 0,
              ...(refresh ? { refresh } : {}),
              choices: Object.entries(choices).map(([faultId, chosen]) => {
                const [choice, like] = chosen.split(WITH_LIKE) as [string, string?];
                return { faultId, choice, like: like !== undefined };
              }),
            },
          })
          .then((r) => r?.ok && setOpen(false))
      }
      sx={{ display: "grid", gap: 1, flexBasis: "100%", maxWidth: 520 }}
    >
      <BoundField
        deed="question.record"
        name="answer.name"
        label={say("whoSaidIt")}
        value={name}
        onChange={setName}
        autoFocus
      />
      {question.body.faults.map((f) => (
        <NativeSelect
          key={f.faultId}
          label={say("faultNumber", { number: f.number })}
          value={choices[f.faultId] ?? ""}
          onChange={(e) => setChoices({ ...choices, [f.faultId]: e.target.value })}
        >
          <option value="">{say("choose")}</option>
          {f.options.flatMap((o) => [
            <option key={o.key} value={o.key}>
              {o.words}
            </option>,
            o.like && (
              <option key={o.key + WITH_LIKE} value={o.key + WITH_LIKE}>
                {say("withLike", { wording: o.words, place: placeWords(o.like.place) })}
              </option>
            ),
          ])}
          <option value={NO}>{say("noWorkAtThis")}</option>
        </NativeSelect>
      ))}
      {question.body.refresh.length > 0 && (
        <FormControlLabel
          control={<Checkbox checked={refresh} onChange={(e) => setRefresh(e.target.checked)} />}
          label={say("andAFullRefresh", {
            parts: question.body.refresh.map((r) => r.words).join(", "),
          })}
        />
      )}
      <Box>
        <Button
          type="submit"
          variant="contained"
          size="small"
          disabled={!all || !name.trim() || deed.running}
        >
          {say("writeItDown")}
        </Button>
      </Box>
      <Problem problem={deed.problem} />
    </Form>
  );
}
