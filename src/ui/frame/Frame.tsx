"use client";

import DarkModeOutlined from "@mui/icons-material/DarkModeOutlined";
import HelpOutline from "@mui/icons-material/HelpOutlined";
import LightModeOutlined from "@mui/icons-material/LightModeOutlined";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import { useColorScheme } from "@mui/material/styles";
import Tooltip from "@mui/material/Tooltip";
import Link from "next/link";
import { usePathname, useRouter } from "next/navigation";
import { type ReactNode, useRef, useState } from "react";

import { deedQueue } from "@/browser/deed-queue";
import type { Role } from "@/contract/roles";
import type { TrayCard } from "@/features/bench/view";
import type { WaitView } from "@/features/waits/deeds";
import { BenchStrip } from "./BenchStrip";
import { CommandField, type CommandHandle } from "./CommandField";
import { Help } from "./Help";
import { ConfirmPassword } from "@/ui/deed/ConfirmPassword";
import { useQueue } from "@/ui/deed/useDeed";
import { useKeys, useScanner } from "../kit/keys";
import { dropDraft } from "@/features/intake/ui/draft";
import { Practising } from "@/ui/state/practising";
import { PracticeBar } from "@/features/practice/ui/PracticeBar";
import { OutboxNotice } from "./OutboxNotice";
import { ReachNotice } from "./ReachNotice";
import { QueueNotice, Saving } from "./QueueNotice";
import { say } from "@/words/frame";
import { SIZE } from "@/ui/tokens";

type Props = {
  person: { id: string; name: string; role: Role };
  trays: TrayCard[];
  waits: WaitView[];
  practice: boolean;
  /** new with every drawing by the server */
  drawn: string;
  children: ReactNode;
};

const PLACES = [
  { href: "/", name: say("bench") },
  { href: "/day", name: say("day") },
  { href: "/units", name: say("units") },
  { href: "/parts", name: say("parts") },
  { href: "/after", name: say("after") },
  { href: "/buying", name: say("buying") },
  { href: "/results", name: say("results") },
  { href: "/routes", name: say("routes") },
  { href: "/models", name: say("models") },
] as const;

/** What Frame knows and does; the components below only show it. */
function useFrame({ person, trays, waits, practice, drawn, children }: Props) {
  const router = useRouter();
  const path = usePathname();
  const command = useRef<CommandHandle>(null);
  const [help, setHelp] = useState(false);
  const toTray = (n: number) => {
    const card = trays.find((t) => t.tray === n);
    if (card) router.push(`/units/${card.tag}`);
  };
  const toNext = async () => {
    const response = await fetch("/api/next").catch(() => null);
    const next = response?.ok ? ((await response.json()) as { value: { href: string } | null }).value : null;
    router.push(next?.href ?? "/day");
  };
  const trayKeys = Object.fromEntries(
    [1, 2, 3, 4, 5, 6, 7, 8, 9].flatMap((n) => [
      [String(n), () => toTray(n)],
      [`alt+${n}`, () => toTray(n)],
    ]),
  );
  useKeys({
    ...trayKeys,
    "/": () => command.current?.focus(),
    "?": () => setHelp(true),
    b: () => router.push("/"),
    j: () => void toNext(),
  });
  useScanner((text) => command.current?.scan(text));
  return { person, trays, waits, practice, drawn, children, path, command, help, setHelp, toTray };
}
type FrameState = ReturnType<typeof useFrame>;

/**
 * What surrounds every page of the workshop: where one can go, the command field, and the bench strip at the
 * near edge.
 */
export function Frame(props: Props) {
  const s = useFrame(props);
  const { person, trays, waits, practice, drawn, children, help, setHelp } = s;

  return (
    <Box
      sx={{
        minHeight: "100vh",
        display: "grid",
        gridTemplateRows: "auto 1fr auto",
        gridTemplateColumns: "minmax(0, 1fr)",
      }}
    >
      <FrameHead {...s} />
      <Box component="main" sx={{ px: { xs: 1.5, md: 2.5 }, py: 2, minWidth: 0 }}>
        <ReachNotice />
        <OutboxNotice person={person} practice={practice} />
        <QueueNotice person={person} practice={practice} drawn={drawn} />
        <Practising value={practice}>{children}</Practising>
      </Box>
      <BenchStrip initial={trays} waits={waits} canWork={person.role !== "viewer"} />
      <ConfirmPassword />
      <Help open={help} onClose={() => setHelp(false)} />
    </Box>
  );
}

function FrameHead({ practice, path, command, toTray, person, setHelp }: FrameState) {
  return (
    <Box component="header">
      {practice && <PracticeBar />}
      <Box
        sx={{
          display: "flex",
          alignItems: "center",
          gap: { xs: 0.5, md: 2 },
          px: { xs: 1, md: 2.5 },
          minHeight: 56,
          borderBottom: 1,
          borderColor: "divider",
          flexWrap: "wrap",
        }}
      >
        <Box
          component={Link}
          href="/"
          sx={{
            fontWeight: 800,
            fontSize: SIZE.title,
            textDecoration: "none",
            color: "text.primary",
            mr: 1,
          }}
        >
          {say("birdcage")}
        </Box>
        <Box component="nav" aria-label={say("main")} sx={PLACES_ROW}>
          {PLACES.map((p) => (
            <Link key={p.href} href={p.href} aria-current={isHere(path, p.href) ? "page" : undefined}>
              {p.name}
            </Link>
          ))}
        </Box>
        <Box
          sx={{ flex: 1, minWidth: { xs: "100%", sm: 220 }, order: { xs: 9, sm: 0 }, pb: { xs: 1, sm: 0 } }}
        >
          <CommandField ref={command} onTray={toTray} />
        </Box>
        {person.role !== "viewer" && (
          <Button component={Link} href="/units/new" variant="contained" size="small">
            {say("takeIn")}
          </Button>
        )}
        <Saving />
        <SchemeToggle />
        <Tooltip title={say("keysAndHelp")}>
          <IconButton aria-label={say("keysAndHelp2")} onClick={() => setHelp(true)}>
            <HelpOutline />
          </IconButton>
        </Tooltip>
        <PersonMenu person={person} />
      </Box>
    </Box>
  );
}

// one rule for all of them, since every page draws them
const PLACES_ROW = {
  display: "flex",
  gap: 0.5,
  overflowX: "auto",
  maxWidth: "100%",
  "& a": {
    display: "inline-flex",
    alignItems: "center",
    minHeight: 44,
    px: 1.2,
    fontWeight: 700,
    fontSize: SIZE.small,
    whiteSpace: "nowrap",
    color: "inherit",
    textDecoration: "none",
    borderBottom: "3px solid transparent",
  },
  "& a:hover": { bgcolor: "action.hover" },
  "& a[aria-current]": { borderColor: "primary.main" },
} as const;

const isHere = (path: string, href: string) => (href === "/" ? path === "/" : path.startsWith(href));

function SchemeToggle() {
  const { mode, systemMode, setMode } = useColorScheme();
  const dark = (mode === "system" ? systemMode : mode) === "dark";
  return (
    <Tooltip title={dark ? say("light") : say("dark")}>
      <IconButton
        aria-label={dark ? say("switchToLight") : say("switchToDark")}
        onClick={() => setMode(dark ? "light" : "dark")}
      >
        {dark ? <LightModeOutlined /> : <DarkModeOutlined />}
      </IconButton>
    </Tooltip>
  );
}

function PersonMenu({ person }: { person: Props["person"] }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [leaving, setLeaving] = useState(false);
  const { deeds } = useQueue();
  const waiting = deeds.filter((d) => d.state === "waiting" && d.by.id === person.id).length;
  /** What waits is saved first; who asks twice leaves at once, and it goes out when they are back. */
  const signOut = async () => {
    if (!leaving) {
      setLeaving(true);
      await deedQueue.drained();
    }
    dropDraft(); // what stands half filled in is not for whoever sits down next
    await fetch("/api/sign-out", { method: "POST" });
    window.location.assign("/sign-in");
  };
  const close = () => setAnchor(null);
  return (
    <>
      <Button
        color="inherit"
        size="small"
        onClick={(e) => setAnchor(e.currentTarget)}
        aria-haspopup="menu"
        sx={{ textTransform: "capitalize", minWidth: 0 }}
      >
        {person.name}
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={close}>
        <MenuItem component={Link} href="/account" onClick={close}>
          {say("passwordSessionsAndCalendar")}
        </MenuItem>
        {person.role === "lead" && (
          <MenuItem component={Link} href="/people" onClick={close}>
            {say("people")}
          </MenuItem>
        )}
        {person.role === "lead" && (
          <MenuItem component={Link} href="/settings" onClick={close}>
            {say("shopAndLimits")}
          </MenuItem>
        )}
        {person.role === "lead" && (
          <MenuItem component={Link} href="/archive" onClick={close}>
            {say("archive")}
          </MenuItem>
        )}
        {person.role !== "viewer" && (
          <MenuItem component={Link} href="/practice" onClick={close}>
            {say("practiceBench")}
          </MenuItem>
        )}
        <MenuItem component={Link} href="/labels" onClick={close}>
          {say("labels")}
        </MenuItem>
        <MenuItem onClick={signOut}>
          {leaving && waiting > 0 ? say("savingWaitingFirstSignOutAll", { waiting }) : say("signOut")}
        </MenuItem>
      </Menu>
    </>
  );
}
