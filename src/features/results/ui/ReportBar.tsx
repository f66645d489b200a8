"use client";

import Button from "@mui/material/Button";
import { usePathname, useRouter, useSearchParams } from "next/navigation";
import type { ReactNode } from "react";

import type { Settings } from "@/contract/deeds";
import { GROUPS } from "@/contract/reports";
import { SOURCE_NAMES } from "@/features/case/words/text";
import { DateField, isDay } from "@/ui/fields/DateField";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { codeWords } from "@/words/codes";
import { say } from "@/features/results/words/words";
import { Row } from "@/ui/kit/layout";

type ReportBarProps = {
  from: string;
  to: string;
  models: { key: string; name: string }[];
  shop: Settings;
  groups?: boolean;
  children?: ReactNode;
};

/** What ReportBar knows and does; the components below only show it. */
function useReportBar({ from, to, models, shop, groups = false, children }: ReportBarProps) {
  const router = useRouter();
  const path = usePathname();
  const query = useSearchParams();
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(query);
    if (value) next.set(name, value);
    else next.delete(name);
    router.replace(`${path}?${next.toString()}`, { scroll: false });
  };
  const field = { size: "small" as const, sx: { width: { xs: "100%", sm: 168 } } };
  return { from, to, models, shop, groups, children, router, path, query, set, field };
}
type ReportBarState = ReturnType<typeof useReportBar>;

/** Filters of a report. They live in the address: a link to it shows the same again. */
export function ReportBar(props: ReportBarProps) {
  const s = useReportBar(props);
  const { from, to, shop, children, router, path, query, set } = s;

  return (
    <Row role="search" aria-label={say("filter")} gap={1.5} around={1.5} at="center">
      {(["from", "to"] as const).map((name) => (
        <DateField
          key={name}
          size="small"
          shop={shop}
          label={name === "from" ? say("from") : say("to")}
          value={name === "from" ? from : to}
          onChange={(day) => (day === "" || isDay(day)) && set(name, day)}
        />
      ))}
      <ModelFilter {...s} />
      <OriginFilter {...s} />
      <GroupBy {...s} />
      {query.size > 0 && (
        <Button onClick={() => router.replace(path, { scroll: false })} color="inherit">
          {say("clear")}
        </Button>
      )}
      {children}
    </Row>
  );
}

function ModelFilter({ field, query, set, models }: ReportBarState) {
  return (
    <NativeSelect
      {...field}
      label={say("model")}
      value={query.get("model") ?? ""}
      onChange={(e) => set("model", e.target.value)}
    >
      <option value="">{say("everyModel")}</option>
      {models.map((m) => (
        <option key={m.key} value={m.key}>
          {m.name}
        </option>
      ))}
    </NativeSelect>
  );
}

function OriginFilter({ field, query, set }: ReportBarState) {
  return (
    <NativeSelect
      {...field}
      label={say("origin")}
      value={query.get("source") ?? ""}
      onChange={(e) => set("source", e.target.value)}
    >
      <option value="">{say("everyOrigin")}</option>
      {Object.entries(SOURCE_NAMES).map(([id, name]) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </NativeSelect>
  );
}

function GroupBy({ groups, field, query, set }: ReportBarState) {
  return (
    groups && (
      <NativeSelect
        {...field}
        label={say("groupBy")}
        value={query.get("by") ?? "model"}
        onChange={(e) => set("by", e.target.value)}
      >
        {GROUPS.map((g) => (
          <option key={g} value={g}>
            {g === "make" ? say("partMake") : codeWords(g)}
          </option>
        ))}
      </NativeSelect>
    )
  );
}
