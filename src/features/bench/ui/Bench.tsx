"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { type ReactNode, useState } from "react";

import type { Settings } from "@/contract/deeds";
import type { WakeUp } from "@/features/parts/wake-ups";
import type { PlanTask } from "@/features/day/deeds";
import type { Awaited } from "@/features/questions/deeds";
import type { BenchView } from "@/features/bench/view";
import type { UnitLine } from "@/features/units/list";
import { dayAndTime } from "@/text/format";
import { NEXT_WORDS, SOURCE_NAMES } from "@/features/case/words/text";
import { Kbd } from "@/ui/kit/Kbd";
import { PlanView } from "@/ui/plan/PlanView";
import { say } from "@/features/bench/words/words";
import { SIZE } from "@/ui/tokens";
import { Column, Text, Words } from "@/ui/kit/layout";

type BenchProps = {
  view: BenchView;
  mine: PlanTask | null;
  answers: Awaited[];
  wakes: WakeUp[];
  /** for a lead: there is no good backup of the last day */
  overdue: { last: string | null } | null;
  shop: Settings;
};

/** What Bench knows and does; the components below only show it. */
function useBench({ view, mine, answers, wakes, overdue, shop }: BenchProps) {
  return { view, mine, answers, wakes, overdue, shop };
}
type BenchState = ReturnType<typeof useBench>;

/** The bench in the middle of a day: the trays, and beside them what to do next. */
export function Bench(props: BenchProps) {
  const s = useBench(props);
  const { view, mine, answers, overdue, shop } = s;

  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,1fr) 340px" },
        gap: 3,
      }}
    >
      <BenchHead {...s} />
      <Column gap={3}>
        {overdue && (
          <Alert severity="warning" role="status">
            {say("lastRun", {
              last: overdue.last
                ? say("theLastGoodBackupIsOf", { last: dayAndTime(overdue.last, shop) })
                : say("noBackupOfThisWorkshopWas"),
            })}{" "}
            <code>{say("npmRunBackup")}</code> {say("onItsMachineAndSeeWhat")}
          </Alert>
        )}
        {mine && <Mine task={mine} />}
        <Listed title={say("nearestToRelease")} empty={say("nothingIsWaitingTakeInA")}>
          {view.next.map((u) => (
            <Row key={u.id} unit={u} detail={NEXT_WORDS[u.nextAction]} />
          ))}
        </Listed>
        {answers.length > 0 && (
          <Listed title={say("customersAnswers")} empty="">
            {answers.map((a) => (
              <AnswerRow key={`${a.tag} ${a.number}`} awaited={a} />
            ))}
          </Listed>
        )}
        <CanGoOn {...s} />
        <LookAgain {...s} />
        <Listed title={say("arrivedWithoutATray")} empty={say("everythingThatArrivedHasATray")}>
          {view.arrivals.map((u) => (
            <Row key={u.id} unit={u} detail={SOURCE_NAMES[u.source]!} />
          ))}
        </Listed>
        {view.quarantined.length > 0 && (
          <Listed title={say("quarantine")} empty="">
            {view.quarantined.map((u) => (
              <Row key={u.id} unit={u} detail={say("swollenCellIsolateHandOver")} stop />
            ))}
          </Listed>
        )}
      </Column>
    </Box>
  );
}

function BenchHead({ view }: BenchState) {
  return (
    <Box>
      <Text component="h1" variant="h1" after={1.5}>
        {say("onTheBench")}
      </Text>
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "repeat(2, minmax(0,1fr))", sm: "repeat(3, minmax(0,1fr))" },
          gap: 1.5,
        }}
      >
        {[1, 2, 3, 4, 5, 6, 7, 8, 9].map((n) => (
          <Tray key={n} n={n} view={view} />
        ))}
      </Box>
    </Box>
  );
}

function CanGoOn({ wakes }: BenchState) {
  return (
    wakes.length > 0 && (
      <Listed title={say("canGoOnThePartIs")} empty="">
        {wakes.map((w) => (
          <Box key={`${w.tag} ${w.slot}`} sx={{ py: 0.8, borderBottom: 1, borderColor: "divider" }}>
            <Link href={`/units/${w.tag}/decide`}>{w.tag}</Link>{" "}
            {say("waitedForItsSlotPartIs", {
              slot: w.slot,
              part: w.part,
              from: w.from === "stock" ? say("onTheShelf") : say("goodInDonorFrom", { from: w.from }),
            })}
          </Box>
        ))}
      </Listed>
    )
  );
}

function LookAgain({ view }: BenchState) {
  return (
    view.reviews.length > 0 && (
      <Listed title={say("goodForNowLookAgain")} empty="">
        {view.reviews.map((r) => (
          <Box key={`${r.tag} ${r.what}`} sx={{ py: 0.8, borderBottom: 1, borderColor: "divider" }}>
            <Link href={`/units/${r.tag}/mend`}>{r.tag}</Link>{" "}
            {say("byReviewOnWhatFallsBackOn", {
              reviewOn: r.reviewOn,
              what: r.what,
              fallback: r.fallback,
            })}
          </Box>
        ))}
      </Listed>
    )
  );
}

function Tray({ n, view }: { n: number; view: BenchView }) {
  const card = view.trays.find((t) => t.tray === n);
  if (!card)
    return (
      <Box
        sx={{
          border: "2px dashed",
          borderColor: "divider",
          borderRadius: 1,
          minHeight: 168,
          p: 1.5,
          color: "text.secondary",
        }}
      >
        <Box sx={{ fontSize: SIZE.figure, fontWeight: 800, lineHeight: 1 }}>{n}</Box>
        {say("free")}
      </Box>
    );
  const profile = view.profiles[card.modelKey];
  return (
    <Box
      component={Link}
      href={`/units/${card.tag}`}
      sx={{
        display: "grid",
        gridTemplateRows: "auto 1fr auto",
        gridTemplateColumns: "minmax(0,1fr)",
        minHeight: 168,
        p: 1.5,
        borderRadius: 1,
        bgcolor: "background.paper",
        border: 1,
        borderColor: "divider",
        color: "text.primary",
        textDecoration: "none",
        "&:hover": { borderColor: "primary.main" },
      }}
    >
      <Box sx={{ display: "flex", alignItems: "baseline", columnGap: 1.2, flexWrap: "wrap" }}>
        <Box sx={{ fontSize: SIZE.figure, fontWeight: 800, lineHeight: 1, color: "primary.main" }}>{n}</Box>
        <Words strong>{card.tag}</Words>
        <Box sx={{ color: "text.secondary", ml: "auto", fontSize: SIZE.small }}>{card.model}</Box>
      </Box>
      <Box sx={{ height: 74, my: 0.5, opacity: 0.9 }}>
        {profile && <PlanView profile={profile} revision={null} plain label={card.model} />}
      </Box>
      <Box>
        <Box
          sx={{
            fontSize: SIZE.small,
            color: "text.secondary",
            overflowWrap: "anywhere",
          }}
        >
          {card.claim ? `“${card.claim}”` : say("noClaim")}
        </Box>
        <Words size="body" strong>
          {NEXT_WORDS[card.nextAction]}
        </Words>
      </Box>
    </Box>
  );
}

function Listed({ title, empty, children }: { title: string; empty: string; children: ReactNode[] }) {
  return (
    <section>
      <Text component="h2" variant="h2" after={0.5}>
        {title}
      </Text>
      {children.length ? (
        <Box sx={{ borderTop: 1, borderColor: "divider" }}>{children}</Box>
      ) : (
        <Typography color="text.secondary">{empty}</Typography>
      )}
    </section>
  );
}

/** What the day's plan gives this person now. */
function Mine({ task }: { task: PlanTask }) {
  return (
    <section>
      <Text component="h2" variant="h2" after={0.5}>
        {say("nextForMe")} <Kbd>j</Kbd>
      </Text>
      <Button
        component={Link}
        href={task.href}
        variant="contained"
        size="large"
        fullWidth
        sx={{ whiteSpace: "normal", fontSize: SIZE.lead }}
      >
        {task.tag}: {task.title}
      </Button>
      <Typography color="text.secondary">
        {say("aboutMinutesMinBy", { minutes: task.minutes })} <Link href="/day">{say("theDaySPlan")}</Link>
      </Typography>
    </section>
  );
}

const HOURS = (iso: string, now: number) => Math.max(0, Math.round((now - Date.parse(iso)) / 3600_000));

function AnswerRow({ awaited: a }: { awaited: Awaited }) {
  const [now] = useState(() => Date.now());
  const hours = HOURS(a.sentAt, now);
  const over = a.reminder.code === "often" || a.reminder.code === "lapses";
  const long = a.state === "waiting" && (a.isOpen || a.reminder.code !== "later");
  const colorOf = () => {
    if (long) return "caution.main";
    if (a.state === "answered") return "pass.main";
    return "primary.main";
  };
  const standOf = () => {
    if (a.state === "answered") return say("answered");
    if (a.state === "expired") return say("ranOut");
    if (long) return over ? say("remindedAndNoAnswer") : say("remindThem");
    return say("replyAwaited");
  };
  return (
    <Box
      component={Link}
      href={`/units/${a.tag}/decide`}
      sx={{
        display: "grid",
        gridTemplateColumns: "auto 1fr",
        columnGap: 1.2,
        py: 0.8,
        borderBottom: 1,
        borderColor: "divider",
        color: "text.primary",
        textDecoration: "none",
      }}
    >
      <Words strong>{a.tag}</Words>
      <Box
        sx={{
          fontWeight: 700,
          textAlign: "right",
          color: colorOf(),
        }}
      >
        {standOf()}
      </Box>
      <Box
        sx={{ color: "text.secondary", fontSize: SIZE.small, gridColumn: "1 / -1" }}
        suppressHydrationWarning
      >
        {say("customerAskedHoursAgo", {
          customer: a.customer || say("customer"),
          hours: hours < 48 ? `${hours} h` : say("hoursDays", { hours: Math.round(hours / 24) }),
        })}
        {a.isOpen && a.state === "waiting" && say("andTheUnitLiesOpen")}
      </Box>
    </Box>
  );
}

function Row({ unit, detail, stop }: { unit: UnitLine; detail: string; stop?: boolean }) {
  return (
    <Box
      component={Link}
      href={`/units/${unit.tag}`}
      sx={{
        display: "grid",
        gridTemplateColumns: "auto 1fr",
        columnGap: 1.2,
        py: 0.8,
        borderBottom: 1,
        borderColor: "divider",
        color: "text.primary",
        textDecoration: "none",
        "&:hover": { bgcolor: "background.paper" },
      }}
    >
      <Words strong>{unit.tag}</Words>
      <Box sx={{ fontWeight: 700, textAlign: "right", color: stop ? "fail.main" : "primary.main" }}>
        {detail}
      </Box>
      <Box
        sx={{
          color: "text.secondary",
          fontSize: SIZE.small,
          gridColumn: "1 / -1",
          overflowWrap: "anywhere",
        }}
      >
        {unit.model} {unit.claim && <>· “{unit.claim}”</>}
      </Box>
    </Box>
  );
}
