"use client";

import Autocomplete from "@mui/material/Autocomplete";
import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import { useRouter } from "next/navigation";
import { type Ref, useEffect, useImperativeHandle, useRef, useState } from "react";

import type { UnitLine } from "@/features/units/list";
import { NEXT_WORDS } from "@/features/case/words/text";
import { say } from "@/words/frame";
import { Words } from "@/ui/kit/layout";

export type CommandHandle = { focus(): void; scan(text: string): void };

type Option = { href: string; title: string; detail: string };

const ACTIONS: (Option & { words: string })[] = [
  { words: say("takeInNewUnitIntake"), href: "/units/new", title: say("takeInAUnit"), detail: say("intake") },
  { words: say("benchHomeTrays"), href: "/", title: say("bench"), detail: say("traysWhatIsNext") },
  { words: say("unitsListAll"), href: "/units", title: say("units"), detail: say("list") },
  {
    words: say("partsShelfStockBatchReceive"),
    href: "/parts",
    title: say("parts"),
    detail: say("shelfBatchesReceive"),
  },
  {
    words: say("catalogueFitPartSubstitute"),
    href: "/parts?tab=catalogue",
    title: say("catalogue"),
    detail: say("partsAndWhereTheyFit"),
  },
  {
    words: say("donorsStripHarvest"),
    href: "/parts?tab=donors",
    title: say("donors"),
    detail: say("whatCanBeHadFromEach"),
  },
  {
    words: say("planAllocationBacklog"),
    href: "/parts?tab=plan",
    title: say("plan"),
    detail: say("mendStripBuyKeep"),
  },
  {
    words: say("toBuyOrderReorderBasket"),
    href: "/parts?tab=buy",
    title: say("toBuy"),
    detail: say("ordersAndTheCheapestBasket"),
  },
  {
    words: say("afterSaleSoldReturnsWarranty"),
    href: "/after",
    title: say("after"),
    detail: say("toHandOverCoversReturns"),
  },
  {
    words: say("labelsPrintCodeSheet"),
    href: "/labels",
    title: say("labels"),
    detail: say("unitsTraysPartsBatchesDonors"),
  },
  {
    words: say("buyingBidListingLotSeller"),
    href: "/buying",
    title: say("buying"),
    detail: say("bidsLotsSellers"),
  },
  {
    words: say("resultsForecastMarginRecord"),
    href: "/results",
    title: say("results"),
    detail: say("forecastAgainstFact"),
  },
  {
    words: say("flowWaitingCumulativeReport"),
    href: "/results/flow",
    title: say("flow"),
    detail: say("whereUnitsWait"),
  },
  {
    words: say("returnsHoldingSurvivalReport"),
    href: "/results/returns",
    title: say("returns"),
    detail: say("howLongMendsHold"),
  },
  {
    words: say("routesCatalogueOddsPricesRules"),
    href: "/routes",
    title: say("routes"),
    detail: say("oddsPricesRules"),
  },
  { words: say("modelsProfiles"), href: "/models", title: say("models"), detail: say("profiles") },
  {
    words: say("learnControllerMapping"),
    href: "/models/learn",
    title: say("learnAController"),
    detail: say("makeAProfileFromOneThat"),
  },
  {
    words: say("archiveExportImportBackupZip"),
    href: "/archive",
    title: say("archive"),
    detail: say("theWholeWorkshopAsAFile"),
  },
  {
    words: say("passwordAccountCalendarFeed"),
    href: "/account",
    title: say("passwordSessionsAndCalendar"),
    detail: say("account"),
  },
];

const CERTIFICATE = /\/c\/([A-Za-z0-9_-]{20,60})$/;
const TRAY = /^tray-?([1-9])$/i;
const PART = /^part-([a-z0-9-]{1,30})$/i;
const BATCH = /^p-?(\d{1,6})$/i;
/** a label of a piece goes on with its name */
const TAG = /^b-?(\d{1,6})(?:-[a-z][a-z0-9-]*)?$/i;
/** "104", "b104" and "B-0104" are one tag. */
export const tagOf = (text: string): string | null => {
  const digits = TAG.exec(text.trim())?.[1] ?? (/^\d{2,6}$/.test(text.trim()) ? text.trim() : null);
  return digits ? `B-${digits.padStart(4, "0")}` : null;
};

type CommandFieldProps = { ref: Ref<CommandHandle>; onTray: (tray: number) => void };

/** What CommandField knows and does; the components below only show it. */
function useCommandField({ ref, onTray }: CommandFieldProps) {
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
      const response = await fetch(`/api/search?q=${encodeURIComponent(query)}`, {
        signal: abort.signal,
      }).catch(() => null);
      if (!response?.ok) return;
      const found = ((await response.json()) as { value: UnitLine[] }).value;
      setUnits(
        found.map((u) => ({
          href: `/units/${u.tag}`,
          title: `${u.tag}  ${u.model}`,
          detail: NEXT_WORDS[u.nextAction],
        })),
      );
    };
    const timer = setTimeout(() => void look(), 120);
    return () => {
      clearTimeout(timer);
      abort.abort();
    };
  }, [query]);

  const actions = query ? ACTIONS.filter((a) => a.words.includes(query.toLowerCase())) : ACTIONS;
  const options: Option[] = query.length < 2 ? actions : [...units, ...actions];
  return { input, text, setText, go, submit, options };
}

/** One field for tags, words and actions; reached with "/". A scan comes here too. */
export function CommandField(props: CommandFieldProps) {
  const s = useCommandField(props);
  const { input, text, setText, go, submit, options } = s;

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
          <Words component="span" size="small" quiet>
            {o.detail}
          </Words>
        </Box>
      )}
      renderInput={(params) => (
        <TextField
          {...params}
          inputRef={input}
          placeholder={say("tagWordsOrAction")}
          slotProps={{
            ...params.slotProps,
            htmlInput: { ...params.slotProps.htmlInput, "aria-label": say("tagWordsOrActionNamed") },
          }}
        />
      )}
    />
  );
}
