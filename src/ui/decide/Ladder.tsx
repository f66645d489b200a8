"use client";

import Box from "@mui/material/Box";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import type { Advice } from "@/core/decide/advise";
import type { TreeNode } from "@/core/decide/walk";
import { totalOf } from "@/core/money/rates";
import { casesWords } from "@/text/decide";
import { money } from "@/text/format";
import { FIGURES } from "@/ui/figures";
import { TermList } from "./Terms";

const GRADE = ["A", "B", "C"] as const;

/** The ladder: do this first; if the retest fails, then that; stop there. What follows a cure is set in. */
export function Ladder({ advice, tree, shop, label }: { advice: Advice; tree: TreeNode; shop: Settings; label: string }) {
  return (
    <Box component="ol" aria-label={label} sx={{ listStyle: "none", m: 0, p: 0 }}>
      <Rungs node={tree} advice={advice} shop={shop} first />
    </Box>
  );
}

function Rungs({ node, advice, shop, first = false }: { node: TreeNode; advice: Advice; shop: Settings; first?: boolean }) {
  const [open, setOpen] = useState(false);
  if (node.do !== "try")
    return (
      <Box component="li" sx={{ display: "grid", gridTemplateColumns: "104px minmax(0,1fr)", gap: 1.5, py: 0.6 }}>
        <Box sx={{ fontFamily: FIGURES, fontWeight: 700, textAlign: "right" }}>{money(Math.round(node.value), shop)}</Box>
        <Box sx={{ fontWeight: 700, color: node.do === "sell" ? "pass.main" : "caution.main" }}>
          {node.do === "sell"
            ? `Sell at grade ${GRADE[node.cap]}${node.share < 1 ? `, told with its limit, ${Math.round(node.share * 100)} % of the price` : ""}`
            : node.do === "give-up"
              ? "Stop there: sell as it is or strip"
              : "and so on"}
        </Box>
      </Box>
    );
  const option = advice.options[node.attempt]!;
  const nameOf = (p: string) => advice.places.find((x) => x.place === p)?.name ?? p;
  const simple = node.worked.do === "sell";
  return (
    <>
      <Box
        component="li"
        sx={{
          display: "grid",
          gridTemplateColumns: "104px minmax(0,1fr)",
          gap: 1.5,
          py: 0.8,
          borderTop: first ? 0 : 1,
          borderColor: "divider",
        }}
      >
        <Box sx={{ textAlign: "right" }}>
          <Box sx={{ fontFamily: FIGURES, fontWeight: 700, fontSize: first ? "1.6rem" : "1.25rem", lineHeight: 1.1 }}>
            {Math.round(node.success * 100)} %
          </Box>
          <Box sx={{ fontSize: "0.8rem", color: "text.secondary" }}>works</Box>
        </Box>
        <Box sx={{ minWidth: 0 }}>
          <Box
            component="button"
            aria-expanded={open}
            onClick={() => setOpen(!open)}
            sx={{
              all: "unset",
              cursor: "pointer",
              fontWeight: 700,
              fontSize: first ? "1.2rem" : "1.05rem",
              "&:focus-visible": { outline: "3px solid" },
            }}
          >
            {first ? "First: " : ""}
            {option.route.name}
          </Box>
          <Box sx={{ color: "text.secondary", fontSize: "0.92rem" }}>
            {option.places.map(nameOf).join(" and ")}
            {option.twin && " (the twin, while it is open)"} · {Math.round(node.minutes)} min ·{" "}
            {money(Math.round(node.cost), shop)}
            {option.leadDays > 0 && ` · part in ${option.leadDays} days`}
            {option.route.grade !== "A" && ` · at best grade ${option.route.grade}`}
          </Box>
          {open && (
            <Box sx={{ mt: 0.5, mb: 1 }}>
              <TermList terms={option.terms} shop={shop} />
              <Box sx={{ fontSize: "0.88rem", mt: 0.5 }}>
                Cost {money(-totalOf(option.terms), shop)} and the strip-down as far as it is not done.
                <br />
                Works: {casesWords(option.chance)}; 90 % between {Math.round(option.chance.low * 100)} and{" "}
                {Math.round(option.chance.high * 100)} %.
                <br />
                Comes back: {Math.round(option.comeback.mean * 100)} %; {casesWords(option.comeback)}. Breaks something:{" "}
                {Math.round(node.breaks * 100)} %.
                {option.route.tools.length > 0 && (
                  <>
                    <br />
                    Needs {option.route.tools.join(", ")}; skill {option.route.skill} of 4
                    {option.route.waitMinutes > 0 && `; ${option.route.waitMinutes} min of waiting`}.
                  </>
                )}
                {option.route.discloses && (
                  <>
                    <br />A buyer is told: {option.route.discloses}.
                  </>
                )}
                {option.route.changesCharacter && (
                  <>
                    <br />
                    Changes the unit’s character; some buyers do not want that.
                  </>
                )}
              </Box>
            </Box>
          )}
          {!simple && (
            <Box sx={{ mt: 0.5, pl: 1.5, borderLeft: 3, borderColor: "pass.main" }}>
              <Box sx={{ fontSize: "0.85rem", color: "text.secondary" }}>when the retest is good</Box>
              <Box component="ol" sx={{ listStyle: "none", m: 0, p: 0 }}>
                <Rungs node={node.worked} advice={advice} shop={shop} />
              </Box>
            </Box>
          )}
          {simple && (
            <Box sx={{ fontSize: "0.88rem", color: "pass.main", fontWeight: 600 }}>
              good retest: {endWords(node.worked, shop)}
            </Box>
          )}
          <Box sx={{ fontSize: "0.85rem", color: "text.secondary", mt: 0.3 }}>if the retest fails ↓</Box>
        </Box>
      </Box>
      <Rungs node={node.failed} advice={advice} shop={shop} />
    </>
  );
}

const endWords = (node: TreeNode, shop: Settings): string =>
  node.do === "sell" ? `sell at grade ${GRADE[node.cap]}, leaves ${money(Math.round(node.value), shop)}` : "";
