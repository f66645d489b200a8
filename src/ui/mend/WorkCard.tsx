"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import { AGENTS } from "@/core/mend/cleaning";
import type { OrderView, Proposal } from "@/service/work-order";
import type { UnitView } from "@/service/views";
import { placeWords } from "@/text/words";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Table } from "@/ui/parts/Table";
import { BigFigure } from "@/ui/unit/Station";
import type { MendRoute } from "./MendStation";

export const LEVELS = ["none", "1: outside", "2: buttons and rubber", "3: wells and sensors", "4: boards"];

/** The work order: opened from what was found and decided, then one button to go on where it stands. */
export function WorkCard({
  view,
  order,
  proposal,
  routes,
  canWork,
}: {
  view: UnitView;
  order: OrderView | null;
  proposal: Proposal;
  routes: MendRoute[];
  canWork: boolean;
}) {
  if (!view.profile.guide)
    return (
      <Alert severity="info" role="note" sx={{ mb: 2 }}>
        No guide for the {view.profile.name} yet. <Link href={`/models/${view.profile.id}/guide`}>Write its steps</Link>, or log
        the mend below.
      </Alert>
    );
  return order ? (
    <Running view={view} order={order} canWork={canWork} />
  ) : canWork ? (
    <OpenOrder view={view} proposal={proposal} routes={routes} />
  ) : null;
}

function Running({ view, order, canWork }: { view: UnitView; order: OrderView; canWork: boolean }) {
  const drop = useDeed("work.drop");
  const [why, setWhy] = useState("");
  const [dropping, setDropping] = useState(false);
  const done = order.line.filter((s) => s.done).length;
  const next = order.line.find((s) => !s.done);
  const missing = order.tools.filter((t) => t.state === "missing");
  const standIns = order.tools.filter((t) => t.state === "stand-in");
  return (
    <Box
      component="section"
      aria-label="Work order"
      sx={{ border: 1, borderColor: "divider", borderRadius: 1, bgcolor: "background.paper", p: 2, mb: 2 }}
    >
      <Box
        sx={{ display: "grid", gap: 2, gridTemplateColumns: { xs: "1fr 1fr", sm: "auto auto auto 1fr" }, alignItems: "center" }}
      >
        <BigFigure value={`${done}/${order.line.length}`} label="steps" />
        <BigFigure value={Math.round(order.minutesLeft)} label="minutes left" />
        <BigFigure value={order.leftOut.length} label="pieces out" />
        <Button
          component={Link}
          href={`/work/${view.unit.tag}`}
          variant="contained"
          size="large"
          autoFocus
          sx={{ justifySelf: { sm: "end" }, fontSize: "1.2rem", gridColumn: { xs: "1 / -1", sm: "auto" }, whiteSpace: "normal" }}
        >
          {next ? `Go on: ${next.title}` : "Look at it"}
        </Button>
      </Box>
      {order.firstOfKind && (
        <Typography sx={{ mt: 1.5 }}>
          The first of its kind by this guide here: look for what others wrote, and note what surprises.{" "}
          <Link href={`/units/${view.unit.tag}/mend/notes`}>Notes</Link>
        </Typography>
      )}
      {missing.length > 0 && (
        <Alert severity="warning" role="note" sx={{ mt: 1.5 }}>
          Not owned, and no stand-in: {missing.map((t) => `${t.name} (${t.steps.join(", ")})`).join("; ")}.{" "}
          <Link href="/settings#tools">Tools of the shop</Link>
        </Alert>
      )}
      <Box component="details" sx={{ mt: 1.5 }}>
        <summary>Tools, consumables and the whole line</summary>
        <Typography sx={{ mt: 1 }}>
          <b>Tools:</b>{" "}
          {order.tools
            .filter((t) => t.state === "owned")
            .map((t) => t.name)
            .join(", ")}
          {standIns.map((t) => (
            <Box key={t.id} component="span" sx={{ display: "block", color: "caution.main" }}>
              {t.name}: {t.standIn!.name} instead{t.standIn!.risk && ` (${t.standIn!.risk})`}
            </Box>
          ))}
        </Typography>
        {order.consumables.length > 0 && (
          <Typography>
            <b>Consumables:</b> {order.consumables.join(", ")}
          </Typography>
        )}
        <Typography>A clear, hard bench with a soft top and an edge; not over carpet.</Typography>
        <Box component="ol" sx={{ pl: 3, my: 1, columns: { md: 2 } }}>
          {order.line.map((s) => (
            <Box component="li" key={s.key} sx={{ color: s.done ? "text.secondary" : "text.primary" }}>
              {s.title}
              {s.done ? " ✓" : `, ${s.minutes} min`}
              {s.learned.first !== null &&
                s.learned.later !== null &&
                ` (first time ${s.learned.first.toFixed(1)}, later ${s.learned.later.toFixed(1)})`}
              {s.difficulty >= 4 && ", hard"}
              {s.fragility >= 4 && ", fragile"}
            </Box>
          ))}
        </Box>
        {order.cleaning.length > 0 && (
          <Table heads={["Cleaning, longest wait first", "With", "Never", "Soak, dry"]} label="Cleaning plan">
            {order.cleaning.map((j) => (
              <tr key={j.surface}>
                <td>
                  {j.name}, {j.material.replaceAll("-", " ")}
                </td>
                <td>
                  {AGENTS[j.agent].name}; {j.tool}
                </td>
                <td>{j.never}</td>
                <td>
                  {[j.soakMinutes && `${j.soakMinutes} min soak`, j.dryMinutes && `${j.dryMinutes} min dry`]
                    .filter(Boolean)
                    .join(", ") || "none"}
                </td>
              </tr>
            ))}
          </Table>
        )}
        {canWork && order.apart.length === 0 && (
          <Box sx={{ display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap" }}>
            {dropping ? (
              <>
                <TextField label="Why" value={why} onChange={(e) => setWhy(e.target.value)} />
                <Button
                  color="error"
                  disabled={why.trim() === "" || drop.running}
                  onClick={() => void drop.run({ orderId: order.id, version: order.version, why })}
                >
                  Drop it
                </Button>
              </>
            ) : (
              <Button size="small" color="inherit" onClick={() => setDropping(true)}>
                Drop this work order
              </Button>
            )}
            <Problem problem={drop.problem} />
          </Box>
        )}
      </Box>
    </Box>
  );
}

function OpenOrder({ view, proposal, routes }: { view: UnitView; proposal: Proposal; routes: MendRoute[] }) {
  const open = useDeed("work.open");
  const [level, setLevel] = useState(proposal.cleaning.level);
  const [chosen, setChosen] = useState<Record<string, { on: boolean; route: string; slot: string }>>(
    Object.fromEntries(
      proposal.targets.map((t) => [
        t.faultId!,
        { on: true, route: routes.find((r) => r.id === t.route && r.places.includes(t.place))?.id ?? "", slot: t.slot ?? "" },
      ]),
    ),
  );
  const [calibrate, setCalibrate] = useState(proposal.calibrate);
  const sticks = view.profile.guide?.calibration?.sticks ?? [];
  const slots = view.profile.slots ?? [];
  const send = () =>
    open.run({
      unitId: view.unit.id,
      cleaningLevel: level,
      calibrate,
      targets: proposal.targets
        .filter((t) => chosen[t.faultId!]?.on)
        .map((t) => {
          const c = chosen[t.faultId!]!;
          const route = routes.find((r) => r.id === c.route);
          return {
            faultId: t.faultId,
            what: `${route?.name ?? "Mend"}: ${placeWords(t.place)}`.slice(0, 120),
            slot: c.slot || null,
            route: c.route || null,
          };
        }),
    });
  return (
    <Box
      component="form"
      aria-label="Open a work order"
      onSubmit={(e) => {
        e.preventDefault();
        void send();
      }}
      sx={{
        border: 1,
        borderColor: "divider",
        borderRadius: 1,
        bgcolor: "background.paper",
        p: 2,
        mb: 2,
        display: "grid",
        gap: 1.5,
      }}
    >
      <Typography component="h3" variant="h2">
        Open a work order
      </Typography>
      {proposal.targets.map((t) => {
        const c = chosen[t.faultId!]!;
        const set = (change: Partial<typeof c>) => setChosen({ ...chosen, [t.faultId!]: { ...c, ...change } });
        return (
          <Box
            key={t.faultId}
            sx={{
              display: "grid",
              gap: 1,
              gridTemplateColumns: { xs: "1fr", sm: "minmax(0,1.2fr) minmax(0,1.5fr) minmax(0,1.3fr)" },
              alignItems: "center",
            }}
          >
            <FormControlLabel
              control={<Checkbox checked={c.on} onChange={(e) => set({ on: e.target.checked })} />}
              label={`${t.number}. ${placeWords(t.place)}`}
            />
            <TextField
              select
              label="By"
              slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
              value={c.route}
              onChange={(e) => set({ route: e.target.value })}
            >
              <option value="">a way of my own</option>
              {routes
                .filter((r) => r.places.includes(t.place))
                .map((r) => (
                  <option key={r.id} value={r.id}>
                    {r.name}
                  </option>
                ))}
            </TextField>
            <TextField
              select
              label="At"
              slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
              value={c.slot}
              onChange={(e) => set({ slot: e.target.value })}
            >
              <option value="">no part, stays closed</option>
              {slots
                .filter((s) => s.serves.includes(t.place))
                .map((s) => (
                  <option key={s.id} value={s.id}>
                    {s.name}
                  </option>
                ))}
            </TextField>
          </Box>
        );
      })}
      {proposal.targets.length === 0 && (
        <Typography color="text.secondary">No open fault: cleaning and calibration only.</Typography>
      )}
      <Box sx={{ display: "flex", gap: 2, flexWrap: "wrap", alignItems: "center" }}>
        <TextField
          select
          label="Clean to level"
          slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
          value={level}
          onChange={(e) => setLevel(Number(e.target.value))}
          sx={{ width: 230 }}
        >
          {LEVELS.map((name, i) => (
            <option key={name} value={i}>
              {name}
            </option>
          ))}
        </TextField>
        <Typography color="text.secondary" sx={{ flex: 1, minWidth: 200 }}>
          Suggested {proposal.cleaning.level}: {proposal.cleaning.why.join("; ")}
        </Typography>
      </Box>
      {sticks.length > 0 && (
        <Box>
          {sticks.map((s) => (
            <FormControlLabel
              key={s}
              control={
                <Checkbox
                  checked={calibrate.includes(s)}
                  onChange={(e) => setCalibrate(e.target.checked ? [...calibrate, s] : calibrate.filter((x) => x !== s))}
                />
              }
              label={`Calibrate the ${placeWords(s)} after closing`}
            />
          ))}
        </Box>
      )}
      <Box>
        <Button type="submit" variant="contained" size="large" disabled={open.running}>
          Open the work order
        </Button>
      </Box>
      <Problem problem={open.problem} />
    </Box>
  );
}
