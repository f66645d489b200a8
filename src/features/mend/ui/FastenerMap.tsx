"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { MendGuide } from "@/core/profile/guide";
import type { ModelProfile } from "@/core/profile/profile";
import type { Item } from "@/core/mend/work";
import { CATCH_WORDS, FATE_WORDS } from "@/features/mend/words/text";
import { Choice } from "@/ui/fields/Choice";
import { Table } from "@/ui/kit/Table";
import { PlanFrame } from "@/features/units/ui/unit/Station";
import { Drawing } from "@/ui/plan/Drawing";
import { INK } from "@/ui/plan/inks";
import { outlinePath } from "@/ui/plan/PlanView";
import { itemDetail } from "./ItemList";
import { MendTabs } from "./MendTabs";
import { say } from "@/features/mend/words/words";
import { codeWords } from "@/words/codes";
import { fastenerName } from "@/text/names";
import { isRefTo, refTo } from "@/core/mend/ref";
import { Row, Text } from "@/ui/kit/layout";

type Face = "front" | "back" | "inside";

/** Lengths apart by ring width, so that a long one is seen before it is read. */
const ringOf = (mm: number) => 1.2 + mm / 8;

type FastenerMarkProps = {
  fastener: MendGuide["fasteners"][number];
  /** across the drawing, which may be mirrored */
  x: number;
  state: Item["state"];
  picked: boolean;
  onPick: () => void;
};

/** One fastener in its place: dashed while it is out, with its length beneath. */
function FastenerMark({ fastener: f, x, state, picked, onPick }: FastenerMarkProps) {
  const out = state === "out";
  return (
    <g
      role="button"
      tabIndex={0}
      aria-pressed={picked}
      aria-label={say("idLengthMmMmId2", {
        id: fastenerName(f.id),
        lengthMm: f.lengthMm,
        id2: out ? say("out2") : state,
      })}
      onClick={onPick}
      onKeyDown={(e) => {
        if (e.key !== "Enter" && e.key !== " ") return;
        e.preventDefault();
        onPick();
      }}
      style={{ cursor: "pointer" }}
    >
      <circle
        cx={x}
        cy={f.at.y}
        r={4}
        fill={INK.paper}
        stroke={out ? INK.caution : INK.text}
        strokeWidth={picked ? ringOf(f.lengthMm) + 0.8 : ringOf(f.lengthMm)}
        strokeDasharray={out ? "2 1.6" : undefined}
      />
      {f.under && (
        <path
          d={`M${x - 6.5} ${f.at.y - 5.5}h13`}
          stroke={INK.line}
          strokeWidth={1.6}
          strokeDasharray="2.5 1.5"
        />
      )}
      <text
        x={x}
        y={f.at.y + 10}
        fontSize={5}
        fontWeight={700}
        textAnchor="middle"
        fill={out ? INK.caution : INK.text}
      >
        {f.lengthMm}
      </text>
    </g>
  );
}

/** The plan of one face with its fasteners: all but the front is mirrored, as it lies when the unit is turned over. */
function FaceView({
  profile,
  guide,
  face,
  state,
  picked,
  onPick,
}: {
  profile: ModelProfile;
  guide: MendGuide;
  face: Face;
  state: (id: string) => Item["state"];
  picked: string | null;
  onPick: (id: string) => void;
}) {
  const { width, height, outlines } = profile.plan;
  return (
    <Drawing
      extent={{ x: -6, y: -8, width: width + 12, height: height + 16 }}
      role="group"
      label={say("fastenersOfTheFaceFace2", {
        face: codeWords(face),
        face2: face !== "front" ? say("mirroredAsWhenTurnedOver") : "",
      })}
      zoom
    >
      {() => (
        <>
          <g transform={face !== "front" ? `translate(${width} 0) scale(-1 1)` : undefined}>
            {outlines.map((o, i) => (
              <path key={i} d={outlinePath(o.points)} fill={INK.body} stroke={INK.line} strokeWidth={0.9} />
            ))}
          </g>
          {guide.fasteners
            .filter((f) => f.face === face)
            .map((f) => {
              const id = refTo("fastener", f.id);
              return (
                <FastenerMark
                  key={f.id}
                  fastener={f}
                  x={face !== "front" ? width - f.at.x : f.at.x}
                  state={state(id)}
                  picked={picked === id}
                  onPick={() => onPick(id)}
                />
              );
            })}
        </>
      )}
    </Drawing>
  );
}

type FastenerMapProps = {
  tag: string;
  profile: ModelProfile;
  guide: MendGuide;
  items: Item[] | null;
};

/** What FastenerMap knows and does; the components below only show it. */
function useFastenerMap({ tag, profile, guide, items }: FastenerMapProps) {
  const faces = (["back", "front", "inside"] as Face[]).filter((f) =>
    guide.fasteners.some((x) => x.face === f),
  );
  const [face, setFace] = useState<Face>(faces[0] ?? "back");
  const [picked, setPicked] = useState<string | null>(null);
  const byId = new Map((items ?? []).map((i) => [i.id, i]));
  const state = (id: string): Item["state"] => byId.get(id)?.state ?? "in";
  const out = (items ?? []).filter((i) => i.state === "out");
  const f = guide.fasteners.find((x) => refTo("fastener", x.id) === picked);
  const fasteners = guide.fasteners.length;
  const fastenersOut = out.filter((i) => isRefTo("fastener", i.id)).length;
  const lengths = [
    ...new Set(
      guide.fasteners.map((x) =>
        say("driveSizeLengthMmMmColour", {
          drive: codeWords(x.drive),
          size: x.size,
          lengthMm: x.lengthMm,
          colour: x.colour,
        }),
      ),
    ),
  ];
  const outList = () => {
    if (items === null) return <Typography color="text.secondary">{say("noWorkOrderIsOpen")}</Typography>;
    if (out.length === 0)
      return <Typography color="text.secondary">{say("nothingEverythingIsInItsPlace")}</Typography>;
    return (
      <Box
        component="ul"
        sx={{ pl: 2.5, m: 0, maxHeight: 240, overflowY: "auto" }}
        tabIndex={0}
        aria-label={say("whatIsOut")}
      >
        {out.map((i) => (
          <li key={i.id}>
            {itemDetail(guide, i.id).name}
            {i.away && say("atAway2", { away: i.away })}
          </li>
        ))}
      </Box>
    );
  };
  return {
    tag,
    profile,
    guide,
    items,
    faces,
    face,
    setFace,
    picked,
    setPicked,
    state,
    f,
    fasteners,
    fastenersOut,
    lengths,
    outList,
  };
}
type FastenerMapState = ReturnType<typeof useFastenerMap>;

/** Where each fastener came out, and everything else that is out: what must come back. */
export function FastenerMap(props: FastenerMapProps) {
  const s = useFastenerMap(props);
  const { tag } = s;

  return (
    <>
      <MendTabs tag={tag} />
      <Box
        sx={{
          display: "grid",
          gap: 3,
          gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,3fr) minmax(0,2fr)" },
        }}
      >
        <FaceMap {...s} />
        <FastenerDetail {...s} />
      </Box>
      <Text component="h3" variant="h2" before={3}>
        {say("cables")}
      </Text>
      <CatchTable {...s} />
    </>
  );
}

function FaceMap({ face, setFace, faces, tag, profile, guide, state, picked, setPicked }: FastenerMapState) {
  return (
    <Box>
      <Row gap={2} after={1} at="center">
        <Choice
          label={say("face")}
          value={face}
          onChange={setFace}
          options={faces.map((x): [Face, string] => [x, x === "back" ? say("backTurnedOver") : codeWords(x)])}
        />
        <Button component="a" href={`/units/${tag}/mat`} target="_blank" variant="outlined">
          {say("printTheTrayMat")}
        </Button>
      </Row>
      <PlanFrame height="calc(100vh - 410px - var(--bench-edge, 56px))">
        <FaceView
          profile={profile}
          guide={guide}
          face={face}
          state={state}
          picked={picked}
          onPick={setPicked}
        />
      </PlanFrame>
      <Text color="text.secondary" before={0.5}>
        {say("millimetresBesideEachTheThicker")}
      </Text>
    </Box>
  );
}

function FastenerDetail({ fastenersOut, fasteners, f, lengths, outList, items, guide }: FastenerMapState) {
  return (
    <Box>
      <Text component="h2" size="figure" strong>
        {say("fastenersOutOfFastenersFasteners", { fastenersOut, fasteners })}
      </Text>
      {f ? (
        <Box sx={{ my: 1.5, p: 1.5, border: 1, borderColor: "divider", borderRadius: 1 }} role="status">
          <b>{say("idLengthMmMm", { id: fastenerName(f.id), lengthMm: f.lengthMm })}</b>
          {say("driveSizeHeadHeadColour", {
            drive: codeWords(f.drive),
            size: f.size,
            head: f.head,
            colour: f.colour,
          })}
          {f.under && say("hiddenUnderUnder", { under: f.under })}
          {f.shaftMm && say("theDriverNeedsAShaftMmMm", { shaftMm: f.shaftMm })}.{" "}
          <Box component="span" sx={{ fontWeight: 700, color: f.pierces ? "caution.main" : "text.primary" }}>
            {say("deepestMmMmAtMostPierces", {
              deepestMm: f.deepestMm,
              pierces: f.pierces ? say("aLongerOneBreaksIntoPierces", { pierces: f.pierces }) : "",
            })}
          </Box>
        </Box>
      ) : (
        <Text around={1.5}>{say("pickAFastenerToSeeWhat")}</Text>
      )}
      <Typography color="text.secondary">{say("kindsLengths", { lengths: lengths.join("; ") })}</Typography>
      <Text component="h3" variant="h2" before={2}>
        {say("whatIsOut")}
      </Text>
      {outList()}
      {(items ?? []).some((i) => i.state === "explained") && (
        <Text before={1}>
          {say("settledItems", {
            items: (items ?? [])
              .filter((i) => i.state === "explained")
              .map((i) => `${itemDetail(guide, i.id).name} ${i.fate ? FATE_WORDS[i.fate] : ""} (${i.why})`)
              .join("; "),
          })}
        </Text>
      )}
    </Box>
  );
}

function CatchTable({ guide }: FastenerMapState) {
  return (
    <Table
      heads={[
        say("cable"),
        say("catch"),
        say("letsGo"),
        say("facing"),
        say("marker"),
        say("colourLeads"),
        "",
      ]}
      label={say("cables")}
    >
      {guide.cables.map((k) => (
        <tr key={k.id}>
          <td>{k.name}</td>
          <td>{CATCH_WORDS[k.catch]}</td>
          <td>{k.release}</td>
          <td>{k.facing}</td>
          <td>{k.marker ?? ""}</td>
          <td>
            {k.colour}
            {k.leads && `: ${k.leads.map(([p, c]) => `${p} ${c}`).join(", ")}`}
          </td>
          <td>
            {k.endsUnit && <b>{say("tornItEndsTheUnit")}</b>}{" "}
            {k.opensMm !== undefined && say("opensMmMmAtMost", { opensMm: k.opensMm })}
          </td>
        </tr>
      ))}
    </Table>
  );
}
