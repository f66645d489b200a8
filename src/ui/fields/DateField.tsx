import type { TextFieldProps } from "@mui/material/TextField";
import { AdapterLuxon } from "@mui/x-date-pickers/AdapterLuxon";
import { DatePicker } from "@mui/x-date-pickers/DatePicker";
import { LocalizationProvider } from "@mui/x-date-pickers/LocalizationProvider";
import { DateTime } from "luxon";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import { say } from "@/words/kit";

/** What a day is called that is only half typed: no schema takes it, so that it is never read as "none". */
const UNFINISHED = "unfinished";
const ISO = "yyyy-MM-dd";

export const isDay = (value: string): boolean => value !== "" && value !== UNFINISHED;

type Props = {
  label: string;
  shop: Pick<Settings, "locale">;
  /** YYYY-MM-DD, or empty */
  value: string;
  onChange: (day: string) => void;
  /** the last day that can be chosen */
  max?: string;
} & Pick<TextFieldProps, "error" | "helperText" | "required" | "size" | "sx" | "autoFocus">;

type Typed = { said: string; shown: DateTime | null; before: string | null };

const read = (day: string): DateTime | null => (day === "" ? null : DateTime.fromISO(day));

/** The calendar's own words, of which a page shows these. */
const WORDS = {
  openDatePickerDialogue: (day: string | null) =>
    day ? say("chooseAnotherThan", { day }) : say("chooseDay"),
  year: say("year"),
  month: say("month"),
  day: say("dayOfMonth"),
  fieldYearPlaceholder: ({ digitAmount }: { digitAmount: number }) => say("yearSign").repeat(digitAmount),
  fieldMonthPlaceholder: () => say("monthSign").repeat(2),
  fieldDayPlaceholder: () => say("daySign").repeat(2),
  fieldClearLabel: say("clear"),
  previousMonth: say("previousMonth"),
  nextMonth: say("nextMonth"),
};

/** A day in the shop's own way of writing it, typed or chosen from a calendar. */
export function DateField({ label, shop, value, onChange, max, autoFocus, ...field }: Props) {
  // what is half typed stays in the field while the form has no day yet; `before` is the form's value until
  // it took what was said
  const [typed, setTyped] = useState<Typed>({ said: value, shown: read(value), before: null });
  if (typed.before !== null && value === typed.said) setTyped({ ...typed, before: null });
  const shown = value === typed.said || value === typed.before ? typed.shown : read(value);
  return (
    <LocalizationProvider dateAdapter={AdapterLuxon} adapterLocale={shop.locale} localeText={WORDS}>
      <DatePicker
        label={label}
        value={shown}
        onChange={(next: DateTime | null) => {
          const saidOf = () => {
            if (next === null) return "";
            if (next.isValid) return next.toFormat(ISO);
            return UNFINISHED;
          };
          const said = saidOf();
          setTyped({ said, shown: next, before: value });
          onChange(said);
        }}
        autoFocus={autoFocus ?? false}
        {...(max === undefined ? {} : { maxDate: DateTime.fromISO(max) })}
        // as wide as a whole day with both buttons
        sx={{ minWidth: 200 }}
        slotProps={{
          textField: { size: "small", ...field, ...(value === UNFINISHED ? { error: true } : {}) },
          field: { clearable: true },
        }}
      />
    </LocalizationProvider>
  );
}
