"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Radio from "@mui/material/Radio";
import RadioGroup from "@mui/material/RadioGroup";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useRouter } from "next/navigation";
import { useRef, useState } from "react";

import type { Refusal } from "@/contract/refusals";
import type { Settings } from "@/contract/deeds";
import { answerSchema, NO, type QuestionBody } from "@/contract/question";
import type { PublicQuestion } from "@/features/questions/page/view";
import { paperNumber } from "@/features/papers/words/text";
import { addUp } from "@/core/money/money";
import { placeWords } from "@/text/names";
import { day, dayAndTime, money } from "@/text/format";
import { refusalText } from "@/text/deed/refusals";
import { Form } from "@/ui/fields/Form";
import { say } from "@/features/decide/words/words";

/** How long an answer may be, by its own schema. */
const upTo = (field: { maxLength: number | null }) => ({
  htmlInput: { maxLength: field.maxLength ?? undefined },
});

type Shop = Pick<Settings, "locale" | "timeZone" | "currency" | "shopName" | "town">;

const OVER: Partial<Record<PublicQuestion["state"], Refusal>> = {
  expired: { code: "question-over", why: "expired" },
  withdrawn: { code: "question-over", why: "withdrawn" },
  closed: { code: "question-over", why: "closed" },
};

type CustomerQuestionProps = {
  question: PublicQuestion;
  token: string;
  shop: Shop;
};

/** What is chosen, and how it is sent: once, also when the answer to it was lost. */
function useCustomerQuestion({ question, token, shop }: CustomerQuestionProps) {
  const router = useRouter();
  const { body } = question;
  const [choices, setChoices] = useState<Record<string, string>>({});
  /** faults whose like part is wanted too */
  const [likes, setLikes] = useState<Record<string, boolean>>({});
  /** everything that wears too, as one choice */
  const [refresh, setRefresh] = useState(false);
  const [name, setName] = useState("");
  const [words, setWords] = useState("");
  const [use, setUse] = useState(question.use);
  const [sure, setSure] = useState(false);
  const [changing, setChanging] = useState(false);
  const [problem, setProblem] = useState<Refusal | null>(null);
  const [sending, setSending] = useState(false);
  const request = useRef<string | null>(null);
  const over = OVER[question.state];
  const all = body.faults.every((f) => choices[f.faultId]);
  const chosenOf = (f: QuestionBody["faults"][number]) => f.options.find((o) => o.key === choices[f.faultId]);
  // without any work that opens the unit there is nothing to refresh beside
  const extra = refresh && body.faults.some((f) => chosenOf(f)) ? body.refresh : [];
  const likeOf = (f: QuestionBody["faults"][number]) => {
    const like = likes[f.faultId] ? (chosenOf(f)?.like ?? null) : null;
    return extra.some((r) => r.place === like?.place) ? null : like;
  };
  const total =
    addUp(body.faults.map((f) => (chosenOf(f)?.priceMinor ?? 0) + (likeOf(f)?.priceMinor ?? 0))) +
    addUp(extra.map((r) => r.priceMinor));
  const answered = question.state === "answered" && !changing;

  const send = async () => {
    setSending(true);
    setProblem(null);
    request.current ??= crypto.randomUUID(); // sending again after a lost answer is the same answer
    try {
      const response = await fetch(`/q/${token}/answer`, {
        method: "POST",
        headers: { "Content-Type": "application/json" },
        body: JSON.stringify({
          requestId: request.current,
          confirmed: true,
          answer: {
            name,
            words,
            changes: changing,
            ...(extra.length > 0 ? { refresh: true } : {}),
            ...(use === "play" || use === "precise" ? { use } : {}),
            choices: body.faults.map((f) => ({
              faultId: f.faultId,
              choice: choices[f.faultId],
              like: likeOf(f) !== null,
            })),
          },
        }),
      });
      const reply = (await response.json()) as { ok: true } | { ok: false; problem: Refusal };
      if (reply.ok) {
        request.current = null;
        setChanging(false);
        setSure(false);
        router.refresh();
      } else setProblem(reply.problem);
    } catch {
      setProblem({ code: "away" });
    }
    setSending(false);
  };

  return {
    ...{ question, shop, body, over, answered, changing, setChanging },
    ...{
      choices,
      setChoices,
      likes,
      setLikes,
      chosenOf,
      name,
      setName,
      words,
      setWords,
      use,
      setUse,
      refresh,
      setRefresh,
      sure,
      setSure,
    },
    ...{ all, total, send, sending, problem },
  };
}
type CustomerQuestionState = ReturnType<typeof useCustomerQuestion>;

/** What can be done below the findings: answer, say that one has changed one's mind, or nothing more. */
function Below(s: CustomerQuestionState) {
  if (s.answered && !s.question.mayChange)
    return <Typography>{refusalText({ code: "question-over", why: "changed-often" })}</Typography>;
  if (s.answered)
    return (
      <Box>
        <Button variant="outlined" onClick={() => s.setChanging(true)}>
          {say("iHaveChangedMyMind")}
        </Button>
      </Box>
    );
  return s.over ? null : <AnswerForm {...s} />;
}

function AnswerForm(s: CustomerQuestionState) {
  const {
    body,
    name,
    setName,
    words,
    setWords,
    sure,
    setSure,
    total,
    shop,
    all,
    changing,
    problem,
    question,
  } = s;
  return (
    <Form onSend={s.send} sx={{ display: "grid", gap: 2 }}>
      {body.faults.map((f) => (
        <FaultChoice key={f.faultId} {...s} fault={f} />
      ))}
      {body.refresh.length > 0 && body.faults.some((f) => s.chosenOf(f)) && (
        <FormControlLabel
          control={<Checkbox checked={s.refresh} onChange={(e) => s.setRefresh(e.target.checked)} />}
          label={say("fullRefreshFor", {
            parts: body.refresh.map((r) => r.words).join(", "),
            price: money(addUp(body.refresh.map((r) => r.priceMinor)), shop),
            saves: say("likeSaves", { saves: money(addUp(body.refresh.map((r) => r.savesMinor)), shop) }),
          })}
        />
      )}
      <RadioGroup
        row
        value={s.use}
        onChange={(_e, v) => s.setUse(v as typeof s.use)}
        aria-label={say("howDoYouUseIt")}
      >
        <Typography component="span" sx={{ alignSelf: "center", mr: 2 }}>
          {say("howDoYouUseIt")}
        </Typography>
        <FormControlLabel value="play" control={<Radio />} label={say("forPlay")} />
        <FormControlLabel value="precise" control={<Radio />} label={say("forPreciseAim")} />
      </RadioGroup>
      <TextField
        label={say("yourName")}
        value={name}
        onChange={(e) => setName(e.target.value)}
        autoComplete="name"
        slotProps={upTo(answerSchema.shape.name)}
      />
      <TextField
        label={say("anythingToAdd")}
        multiline
        value={words}
        onChange={(e) => setWords(e.target.value)}
        slotProps={upTo(answerSchema.shape.words)}
      />
      <FormControlLabel
        control={<Checkbox checked={sure} onChange={(e) => setSure(e.target.checked)} />}
        label={say("iMeanItTotalInAll", { total: money(total, shop) })}
      />
      <Box>
        <Button
          type="submit"
          variant="contained"
          size="large"
          disabled={!all || !name.trim() || !sure || s.sending}
        >
          {changing ? say("sendTheNewAnswer") : say("sendMyAnswer")}
        </Button>
      </Box>
      {problem && (
        <Alert severity="error" role="alert">
          {refusalText(problem)}
        </Alert>
      )}
      <Typography color="text.secondary">
        {say("openUntilExpiresAtUntilYouAnswer", { expiresAt: day(question.expiresAt, shop) })}
      </Typography>
    </Form>
  );
}

function FaultChoice({
  fault,
  choices,
  setChoices,
  likes,
  setLikes,
  chosenOf,
  shop,
}: CustomerQuestionState & { fault: CustomerQuestionState["body"]["faults"][number] }) {
  const like = chosenOf(fault)?.like;
  return (
    <Box component="fieldset" sx={{ border: 1, borderColor: "divider", borderRadius: 1, p: 2, m: 0 }}>
      <Box component="legend" sx={{ fontWeight: 700, px: 0.5 }}>
        {say("faultNumberFound", { number: fault.number, found: fault.found })}
      </Box>
      <RadioGroup
        value={choices[fault.faultId] ?? ""}
        onChange={(_e, v) => setChoices({ ...choices, [fault.faultId]: v })}
        aria-label={say("faultNumber", { number: fault.number })}
      >
        {fault.options.map((o) => (
          <FormControlLabel
            key={o.key}
            value={o.key}
            control={<Radio />}
            label={say("yesWordsPriceMinorAboutDays", {
              words: o.words,
              priceMinor: money(o.priceMinor, shop),
              days: o.days,
              warrantyDays: o.warrantyDays,
            })}
          />
        ))}
        <FormControlLabel value={NO} control={<Radio />} label={say("noLeaveThisAsItIs")} />
      </RadioGroup>
      {like && (
        <FormControlLabel
          control={
            <Checkbox
              checked={likes[fault.faultId] ?? false}
              onChange={(e) => setLikes({ ...likes, [fault.faultId]: e.target.checked })}
            />
          }
          label={say("andLikeForPrice", {
            words: say("andTheLike", { place: placeWords(like.place) }),
            price: money(like.priceMinor, shop),
            saves: say("likeSaves", { saves: money(like.savesMinor, shop) }),
          })}
        />
      )}
    </Box>
  );
}

const wordingOf = ({ wording, like, refresh }: PublicQuestion["answers"][number]): string => {
  const words = like ? say("withLike", { wording, place: placeWords(like.place) }) : wording;
  return refresh.length > 0 ? say("withARefresh", { wording: words }) : words;
};

/** What was seen, as the workshop photographed it. */
const Pictures = ({ question, token }: CustomerQuestionProps) =>
  question.pictures.length > 0 && (
    <Box
      sx={{
        display: "grid",
        gap: 1.5,
        gridTemplateColumns: "repeat(auto-fill, minmax(min(100%, 240px), 1fr))",
      }}
    >
      {question.pictures.map((p) => (
        <Box key={p.id} component="figure" sx={{ m: 0 }}>
          <Box
            component="img"
            src={`/q/${token}/picture/${p.id}`}
            alt={p.caption || say("aPictureOfIt")}
            sx={{ width: "100%", borderRadius: 1, display: "block" }}
          />
          <figcaption>{p.caption}</figcaption>
        </Box>
      ))}
    </Box>
  );

/**
 * The customer's page: findings, what can be done and for how much, a choice a fault, and one confirmed
 * answer.
 */
export function CustomerQuestion(props: CustomerQuestionProps) {
  const s = useCustomerQuestion(props);
  const { shop, question, body, over } = s;
  return (
    <Box component="main" sx={{ maxWidth: 720, mx: "auto", px: 2, py: 3, display: "grid", gap: 2 }}>
      <Box>
        <Typography color="text.secondary">
          {shop.shopName}, {shop.town}
        </Typography>
        <Typography component="h1" variant="h1">
          {say("yourModelTag", { model: question.model, tag: question.tag })}
        </Typography>
      </Box>
      {question.claim && (
        <Typography color="text.secondary">{say("inYourWords", { claim: question.claim })}</Typography>
      )}
      {body.findings && <Typography sx={{ whiteSpace: "pre-line" }}>{body.findings}</Typography>}
      <Pictures {...props} />
      {over && (
        <Alert severity="warning" role="status">
          {refusalText(over)}
        </Alert>
      )}
      {question.answers.length > 0 && (
        <Alert severity="success" role="status">
          {say("answeredWhatYouChoseNewestLast")}
          {question.answers.map((a, i) => (
            <div key={i}>
              {say("fault")} {body.faults.find((f) => f.faultId === a.faultId)?.number}:{" "}
              {a.choice === NO ? say("noWork") : wordingOf(a)} ({a.name}, {dayAndTime(a.at, shop)})
            </div>
          ))}
        </Alert>
      )}
      {question.bill && (
        <Box>
          <Typography component="h2" variant="h2">
            {say("yourBill", {
              number: paperNumber(question.bill.number),
              sum: money(question.bill.sumMinor, shop),
            })}
          </Typography>
          <Button
            component="a"
            href={`/q/${props.token}/bill`}
            target="_blank"
            variant="outlined"
            size="large"
          >
            {say("billAsPdf")}
          </Button>
        </Box>
      )}
      <Below {...s} />
    </Box>
  );
}
