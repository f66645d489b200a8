"use client";

import Autocomplete from "@mui/material/Autocomplete";
import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import { useRouter } from "next/navigation";
import { type Ref, useEffect, useImperativeHandle, useRef, useState } from "react";

import type { UnitLine } from "@/service/views";
import { NEXT_WORDS } from "@/text/words";

export type CommandHandle = { focus(): void; scan(text: string): void };

type Option = { href: string; title: string; detail: string };

const ACTIONS: (Option & { words: string })[] = [
  { words: "take in new unit intake", href: "/units/new", title: "Take in a unit", detail: "Intake" },
  { words: "bench home trays", href: "/", title: "Bench", detail: "trays, what is next" },
  { words: "units list all", href: "/units", title: "Units", detail: "list" },
  { words: "parts shelf stock batch receive", href: "/parts", title: "Parts", detail: "shelf, batches, receive" },
  {
    words: "catalogue fit part substitute",
    href: "/parts?tab=catalogue",
    title: "Catalogue",
    detail: "parts and where they fit",
  },
  { words: "donors strip harvest", href: "/parts?tab=donors", title: "Donors", detail: "what can be had from each" },
  { words: "plan allocation backlog", href: "/parts?tab=plan", title: "Plan", detail: "mend, strip, buy, keep" },
  { words: "to buy order reorder basket", href: "/parts?tab=buy", title: "To buy", detail: "orders and the cheapest basket" },
  {
    words: "after sale sold returns warranty handover ready",
    href: "/after",
    title: "After",
    detail: "to hand over, covers, returns",
  },
  { words: "labels print code sheet", href: "/labels", title: "Labels", detail: "units, trays, parts, batches, donors" },
  { words: "buying bid listing lot seller", href: "/buying", title: "Buying", detail: "bids, lots, sellers" },
  { words: "results forecast margin record", href: "/results", title: "Results", detail: "forecast against fact" },
  { words: "flow waiting cumulative report", href: "/results/flow", title: "Flow", detail: "where units wait" },
  { words: "returns holding survival report", href: "/results/returns", title: "Returns", detail: "how long mends hold" },
  { words: "routes catalogue odds prices rules", href: "/routes", title: "Routes", detail: "odds, prices, rules" },
  { words: "models profiles", href: "/models", title: "Models", detail: "profiles" },
  {
    words: "learn controller mapping",
    href: "/models/learn",
    title: "Learn a controller",
    detail: "make a profile from one that is plugged in",
  },
  {
    words: "archive export import backup zip",
    href: "/archive",
    title: "Archive",
    detail: "the whole workshop as a file; leads",
  },
  {
    words: "password account calendar feed sessions sign out",
    href: "/account",
    title: "Password, sessions and calendar",
    detail: "account",
  },
];

const CERTIFICATE = /\/c\/([A-Za-z0-9_-]{20,60})$/;
const TRAY = /^tray-?([1-9])$/i;
const PART = /^part-([a-z0-9-]{1,30})$/i;
const BATCH = /^p-?(\d{1,6})$/i;
const TAG = /^b-?(\d{1,6})$/i;
/** "104", "b104" and "B-0104" are one tag. */
export const tagOf = (text: string): string | null => {
  const digits = TAG.exec(text.trim())?.[1] ?? (/^\d{2,6}$/.test(text.trim()) ? text.trim() : null);
  return digits ? `B-${digits.padStart(4, "0")}` : null;
};

/** One field for tags, words and actions; reached with "/". A scan comes here too. */
export function CommandField({ ref, onTray }: { ref: Ref<CommandHandle>; onTray: (tray: number) => void }) {
  const router = useRouter();
  const input = useRef<HTMLInputElement>(null);
  const [text, setText] = useState("");
  const [units, setUnits] = useState<Option[]>([]);
  const go = (href: string) => {
    setText("");
    input.current?.blur();
    router.push(href);
  };
  const submit = (typed: string) => {
    const tag = tagOf(typed);
    const batch = BATCH.exec(typed.trim())?.[1];
    const certificate = CERTIFICATE.exec(typed.trim())?.[1];
    const tray = TRAY.exec(typed.trim())?.[1];
    const part = PART.exec(typed.trim())?.[1];
    if (certificate) go(`/c/${certificate}`);
    else if (tray) {
      setText("");
      onTray(Number(tray));
    } else if (part) go(`/parts?tab=catalogue&part=${part.toUpperCase()}`);
    else if (batch) go(`/parts/P-${batch.padStart(4, "0")}`);
    else if (tag) go(`/units/${tag}`);
    else if (typed.trim()) go(`/units?q=${encodeURIComponent(typed.trim())}`);
  };
  useImperativeHandle(ref, () => ({ focus: () => input.current?.focus(), scan: submit }));

  const query = text.trim();
  useEffect(() => {
    if (query.length < 2) return;
    const abort = new AbortController();
    const look = async () => {
      const response = await fetch(`/api/search?q=${encodeURIComponent(query)}`, { signal: abort.signal }).catch(() => null);
      if (!response?.ok) return;
      const found = ((await response.json()) as { value: UnitLine[] }).value;
      setUnits(found.map((u) => ({ href: `/units/${u.tag}`, title: `${u.tag}  ${u.model}`, detail: NEXT_WORDS[u.nextAction] })));
    };
    const timer = setTimeout(() => void look(), 120);
    return () => {
      clearTimeout(timer);
      abort.abort();
    };
  }, [query]);

  const actions = query ? ACTIONS.filter((a) => a.words.includes(query.toLowerCase())) : ACTIONS;
  const options: Option[] = query.length < 2 ? actions : [...units, ...actions];
  return (
    <Autocomplete<Option, false, false, true>
      freeSolo
      options={options}
      filterOptions={(o) => o}
      getOptionLabel={(o) => (typeof o === "string" ? o : o.title)}
      getOptionKey={(o) => (typeof o === "string" ? o : o.href)}
      inputValue={text}
      value={null}
      onInputChange={(_e, value, reason) => reason === "input" && setText(value)}
      onChange={(_e, value) => {
        if (typeof value === "string") submit(value);
        else if (value) go(value.href);
      }}
      renderOption={({ key, ...props }, o) => (
        <Box component="li" key={key} {...props} sx={{ gap: 1.5 }}>
          <b>{o.title}</b>
          <Box component="span" sx={{ color: "text.secondary", fontSize: "0.9rem" }}>
            {o.detail}
          </Box>
        </Box>
      )}
      renderInput={(params) => (
        <TextField
          {...params}
          inputRef={input}
          placeholder="Tag, words or action  ( / )"
          slotProps={{ ...params.slotProps, htmlInput: { ...params.slotProps.htmlInput, "aria-label": "Tag, words or action" } }}
        />
      )}
    />
  );
}
