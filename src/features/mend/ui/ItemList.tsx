"use client";

import Box from "@mui/material/Box";

import type { Item } from "@/core/mend/work";
import type { MendGuide } from "@/core/profile/guide";
import type { OrderView } from "@/features/mend/view";
import { CATCH_WORDS, FATE_WORDS } from "@/features/mend/words/text";
import { say } from "@/features/mend/words/words";
import { codeWords } from "@/words/codes";
import { mark } from "@/words/figures";
import { fastenerName } from "@/text/names";
import { isRefTo, refOf } from "@/core/mend/ref";
import { SIZE } from "@/ui/tokens";

/** What a fastener, clip, cable or piece of the guide is like, in a line. */
export function itemDetail(guide: MendGuide, id: string): { name: string; detail: string; warn: string } {
  const { kind, id: own } = refOf(id) ?? { kind: null, id };
  if (kind === "fastener") {
    const f = guide.fasteners.find((x) => x.id === own)!;
    return {
      name: `${fastenerName(own)}: ${mark(f.lengthMm)} mm`,
      detail: say("driveSizeHeadHeadColourUnder", {
        drive: codeWords(f.drive),
        size: f.size,
        head: f.head,
        colour: f.colour,
        under: f.under ? say("underUnder", { under: f.under }) : "",
        shaftMm: f.shaftMm ? say("shaftShaftMmMm", { shaftMm: f.shaftMm }) : "",
      }),
      warn: f.pierces
        ? say("overDeepestMmMmItBreaksInto", { deepestMm: f.deepestMm, pierces: f.pierces })
        : "",
    };
  }
  if (kind === "clip") {
    const c = guide.clips.find((x) => x.id === own)!;
    return {
      name: c.name,
      detail: `${c.pry}${c.glued ? say("glued") : ""}${c.oftenBreaks ? say("oftenBreaks") : ""}`,
      warn: c.matters ? "" : say("holdsWithoutIt"),
    };
  }
  if (kind === "cable") {
    const k = guide.cables.find((x) => x.id === own)!;
    return {
      name: k.name,
      detail: `${CATCH_WORDS[k.catch]}: ${k.release}; ${k.facing}${k.marker ? `; ${k.marker}` : ""}; ${k.colour}${k.leads ? ` (${k.leads.map(([p, c]) => `${p} ${c}`).join(", ")})` : ""}`,
      warn: [
        k.endsUnit ? say("tornItEndsTheUnit") : "",
        k.opensMm !== undefined ? say("halvesOpensMmMmApartAtMost", { opensMm: k.opensMm }) : "",
      ]
        .filter(Boolean)
        .join("; "),
    };
  }
  const p = guide.pieces.find((x) => x.id === own);
  if (!p) return { name: own, detail: "", warn: "" };
  const warnOf = () => {
    if (p.picture) return say("pictureFirst");
    if (p.falls) return say("fallsOut");
    return "";
  };
  return { name: p.name, detail: p.sits, warn: warnOf() };
}

const STATE_WORDS: Record<Item["state"], string> = {
  in: say("in2"),
  out: say("out2"),
  explained: say("settled2"),
};

type Hands = {
  marked: number;
  onMark: (i: number) => void;
  onToggle: (item: Item) => void;
  canWork: boolean;
};

/** The pieces of a step, each with where it is now; ticked one by one when they go back. */
export function ItemList({
  items,
  order,
  phase,
  numbered = false,
  ...hands
}: Hands & { items: Item[]; order: OrderView; phase: string; numbered?: boolean }) {
  const fasteners = items.filter((i) => isRefTo("fastener", i.id));
  const out = fasteners.filter((i) => i.state === "out").length;
  const count = fasteners.length;
  return (
    <Box>
      {count > 0 && (
        <Box sx={{ fontSize: SIZE.head, fontWeight: 800, mb: 0.5 }} role="status">
          {phase === "back"
            ? say("fastenersOfFasteners2Fasteners", { fasteners: count - out, fasteners2: count })
            : `${count} ${count === 1 ? say("fastener") : say("fasteners")}`}
        </Box>
      )}
      <Box component="ul" sx={{ listStyle: "none", p: 0, m: 0, borderTop: 1, borderColor: "divider" }}>
        {items.map((i, n) => (
          <li key={i.id}>
            <ItemRow item={i} n={n} order={order} numbered={numbered} {...hands} />
          </li>
        ))}
      </Box>
    </Box>
  );
}

const SHOWN: Record<Item["state"], { colour: string; words: string }> = {
  in: { colour: "pass.main", words: say("in") },
  out: { colour: "caution.main", words: say("out") },
  explained: { colour: "text.secondary", words: say("settled") },
};

const ROW = {
  display: "flex",
  width: "100%",
  textAlign: "left",
  alignItems: "flex-start",
  gap: 1,
  py: 0.8,
  px: 0.5,
  minHeight: 52,
  borderBottom: 1,
  borderColor: "divider",
  font: "inherit",
  color: "inherit",
} as const;
const MARKED = {
  bgcolor: "background.paper",
  boxShadow: "inset 4px 0 0 var(--mui-palette-primary-main)",
} as const;

function ItemRow({
  item,
  n,
  order,
  marked,
  onMark,
  onToggle,
  canWork,
  numbered,
}: Hands & { item: Item; n: number; order: OrderView; numbered: boolean }) {
  const detail = itemDetail(order.guide, item.id);
  const row = { ...ROW, ...(canWork && n === marked ? MARKED : {}) };
  if (!canWork)
    return (
      <Box sx={row}>
        <ItemWords item={item} detail={detail} n={numbered ? n + 1 : null} />
      </Box>
    );
  // Space ticks it; Enter stays what it is everywhere on this page: done
  return (
    <Box
      role="checkbox"
      tabIndex={0}
      sx={{ ...row, cursor: "pointer" }}
      aria-checked={item.state === "in"}
      aria-label={`${detail.name}: ${STATE_WORDS[item.state]}`}
      onFocus={() => onMark(n)}
      onClick={() => {
        onMark(n);
        onToggle(item);
      }}
      onKeyDown={(e) => {
        if (e.key !== " ") return;
        e.preventDefault();
        e.stopPropagation();
        onToggle(item);
      }}
    >
      <ItemWords item={item} detail={detail} n={numbered ? n + 1 : null} />
    </Box>
  );
}

/** `n`: its number in the picture of the step */
function ItemWords({
  item,
  detail,
  n,
}: {
  item: Item;
  detail: ReturnType<typeof itemDetail>;
  n: number | null;
}) {
  const { colour, words } = SHOWN[item.state];
  return (
    <>
      <Box component="span" sx={{ width: 58, flexShrink: 0, fontWeight: 800, color: colour }}>
        {words}
      </Box>
      <Box component="span" sx={{ minWidth: 0 }}>
        <Box component="span" sx={{ display: "block", fontWeight: 700, fontSize: SIZE.lead }}>
          {n !== null && (
            <Box component="span" sx={{ mr: 1, color: "primary.main" }} title={say("numberOfList", { n })}>
              {n}
            </Box>
          )}
          {detail.name}
        </Box>
        <Box component="span" sx={{ display: "block", color: "text.secondary", fontSize: SIZE.body }}>
          {detail.detail}
          {item.away && say("atAway", { away: item.away })}
          {item.fate && `; ${FATE_WORDS[item.fate]}: ${item.why}`}
        </Box>
        {detail.warn && (
          <Box
            component="span"
            sx={{ display: "block", color: "caution.main", fontWeight: 600, fontSize: SIZE.body }}
          >
            {detail.warn}
          </Box>
        )}
      </Box>
    </>
  );
}
