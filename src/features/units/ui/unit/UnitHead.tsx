"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { usePathname, useRouter } from "next/navigation";
import { useEffect, useState } from "react";

import type { Role } from "@/contract/roles";
import { STATIONS } from "@/core/record/standing";
import type { UnitView } from "@/features/units/view";
import { day } from "@/text/format";
import { STATION_KEYS, STATION_NAMES, stationText } from "@/features/case/words/text";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { DateField } from "@/ui/fields/DateField";
import { Form } from "@/ui/fields/Form";
import { Kbd } from "@/ui/kit/Kbd";
import { useKeys } from "@/ui/kit/keys";
import { say } from "@/words/frame";
import type { Id } from "@/core/base/ids";
import { SIZE } from "@/ui/tokens";
import { Block, Row, Text } from "@/ui/kit/layout";

const PRESENT_MS = 30_000;

type UnitHeadProps = { view: UnitView; role: Role };

/** What UnitHead knows and does; the components below only show it. */
function useUnitHead({ view, role }: UnitHeadProps) {
  const { unit, profile } = view;
  const router = useRouter();
  const path = usePathname();
  const base = `/units/${unit.tag}`;
  useKeys({
    ...Object.fromEntries(STATIONS.map((s) => [STATION_KEYS[s], () => router.push(`${base}/${s}`)])),
    c: () => router.push(`${base}/case`),
  });
  usePresence(unit.id, role !== "viewer" && unit.ending === null);
  const revision = profile.revisions.find((r) => r.id === unit.revision)?.name ?? say("revisionNotKnown");
  return { view, role, unit, profile, path, base, revision };
}
type UnitHeadState = ReturnType<typeof useUnitHead>;

/**
 * The unit's head: tag, model, the claim in its own words, and the line of stations, each with how it stands.
 */
export function UnitHead(props: UnitHeadProps) {
  const s = useUnitHead(props);
  const { view, path, base } = s;

  return (
    <Block after={2}>
      <UnitWords {...s} />
      <Box
        component="nav"
        aria-label={say("stations")}
        sx={{ display: "flex", overflowX: "auto", borderBottom: 2, borderColor: "divider" }}
      >
        {view.line.map((s) => {
          const here = path.startsWith(`${base}/${s.station}`);
          return (
            <Box
              key={s.station}
              component={Link}
              href={`${base}/${s.station}`}
              aria-current={here ? "page" : undefined}
              sx={{
                flex: "1 1 0",
                minWidth: 104,
                px: 1.5,
                py: 0.8,
                mb: "-2px",
                textDecoration: "none",
                color: "text.primary",
                borderBottom: 4,
                borderColor: here ? "primary.main" : "transparent",
                bgcolor: here ? "background.paper" : "transparent",
                "&:hover": { bgcolor: "background.paper" },
              }}
            >
              <Box sx={{ fontWeight: 700, display: "flex", gap: 0.8, alignItems: "center" }}>
                {STATION_NAMES[s.station]}
                {s.state === "now" && (
                  <Box
                    component="span"
                    aria-label={say("workGoesOnHere")}
                    sx={{ width: 9, height: 9, borderRadius: "50%", bgcolor: "primary.main" }}
                  />
                )}
              </Box>
              <Box
                sx={{
                  fontSize: SIZE.small,
                  color: s.state === "stop" ? "fail.main" : "text.secondary",
                  fontWeight: s.state === "stop" ? 700 : 400,
                }}
              >
                {stationText(s.said)}
              </Box>
            </Box>
          );
        })}
      </Box>
    </Block>
  );
}

function UnitWords({ unit, profile, revision, role, view, base }: UnitHeadState) {
  return (
    <Row gap={2} after={1} at="baseline">
      <Typography component="h1" sx={{ fontSize: SIZE.figure, fontWeight: 800, lineHeight: 1 }}>
        {unit.tag}
      </Typography>
      <Text strong>
        {profile.maker} {profile.name}
      </Text>
      <Typography color="text.secondary">{revision}</Typography>
      {view.mates.here.map((m) => (
        <Link key={m.tag} href={`/units/${m.tag}`}>
          {say("withMate", { tag: m.tag })}
        </Link>
      ))}
      <Typography
        sx={{
          flex: 1,
          minWidth: view.mates.here.length > 0 ? 110 : 200,
          fontStyle: unit.claim ? "italic" : "normal",
        }}
        color={unit.claim ? "text.primary" : "text.secondary"}
      >
        {unit.claim ? `“${unit.claim}”` : say("noClaimWasGiven")}
      </Typography>
      {role !== "viewer" && unit.ending === null && !unit.swollen && (
        <TrayMenu unitId={unit.id} tray={unit.tray} />
      )}
      {role !== "viewer" && unit.ending === null && (
        <DueDay unitId={unit.id} version={unit.version} dueOn={unit.due_on} shop={view.settings} />
      )}
      <Button component={Link} href={`${base}/case`} size="small" color="inherit">
        {say("theCase")}&nbsp;<Kbd>c</Kbd>
      </Button>
      <Button component={Link} href={`${base}/record`} size="small" color="inherit">
        {say("record")}
      </Button>
    </Row>
  );
}

/** Tells the server that this unit's page is open, so that minutes count by themselves. */
function usePresence(unitId: Id<"unit">, on: boolean): void {
  useEffect(() => {
    if (!on) return;
    const tell = () => {
      if (document.hidden) return;
      void fetch("/api/do/bench.present", {
        method: "POST",
        headers: { "Content-Type": "application/json" },
        body: JSON.stringify({ requestId: crypto.randomUUID(), input: { unitId } }),
      }).catch(() => undefined);
    };
    tell();
    const timer = setInterval(tell, PRESENT_MS);
    return () => clearInterval(timer);
  }, [unitId, on]);
}

/** The day by which it is promised; the day's plan keeps it. */
function DueDay({
  unitId,
  version,
  dueOn,
  shop,
}: {
  unitId: Id<"unit">;
  version: number;
  dueOn: string | null;
  shop: UnitView["settings"];
}) {
  const set = useDeed("unit.set-due");
  const [open, setOpen] = useState(false);
  const [date, setDate] = useState(dueOn ?? "");
  if (!open)
    return (
      <Button size="small" color="inherit" onClick={() => setOpen(true)}>
        {dueOn ? say("dueDueOn", { dueOn: day(dueOn, shop) }) : say("setDueDay")}
      </Button>
    );
  return (
    <Form
      aria-label={say("dueDay")}
      onSend={() =>
        void set.run({ unitId, version, dueOn: date || null }).then((d) => d?.ok && setOpen(false))
      }
      sx={{ display: "flex", gap: 1 }}
    >
      <DateField label={say("due")} shop={shop} value={date} onChange={setDate} autoFocus />
      <Button type="submit" disabled={set.running}>
        {say("set")}
      </Button>
      <Problem problem={set.problem} />
    </Form>
  );
}

function TrayMenu({ unitId, tray }: { unitId: Id<"unit">; tray: number | null }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const deed = useDeed("unit.to-tray");
  const move = (to: number | null) => {
    setAnchor(null);
    void deed.run({ unitId, tray: to });
  };
  return (
    <>
      <Button
        size="small"
        variant="outlined"
        onClick={(e) => setAnchor(e.currentTarget)}
        aria-haspopup="menu"
      >
        {tray === null ? say("onNoTrayPutItOn") : say("trayTray2", { tray })}
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {[1, 2, 3, 4, 5, 6, 7, 8, 9].map((n) => (
          <MenuItem key={n} selected={n === tray} onClick={() => move(n)}>
            {say("trayN", { n })}
          </MenuItem>
        ))}
        {tray !== null && <MenuItem onClick={() => move(null)}>{say("takeOffTheBench")}</MenuItem>}
      </Menu>
      {deed.problem && (
        <Box sx={{ flexBasis: "100%" }}>
          <Problem problem={deed.problem} />
        </Box>
      )}
    </>
  );
}
