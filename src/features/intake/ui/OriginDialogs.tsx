"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import type { ReactNode } from "react";

import { Problem } from "@/ui/deed/Problem";
import { TypedField } from "@/ui/form/TypedField";
import { useDeedForm } from "@/ui/form/useDeedForm";
import { say } from "@/features/intake/words/words";

type Props = { open: boolean; onClose: () => void; onAdded: (id: string) => void };

function Small({
  open,
  onClose,
  title,
  children,
  onSave,
  running,
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  children: ReactNode;
  onSave: () => void;
  running: boolean;
}) {
  return (
    <Dialog open={open} onClose={onClose} maxWidth="xs" fullWidth>
      <Box
        component="form"
        noValidate
        onSubmit={(e) => {
          e.preventDefault();
          e.stopPropagation();
          onSave();
        }}
      >
        <DialogTitle>{title}</DialogTitle>
        <DialogContent sx={{ display: "grid", gap: 1.5, pt: "8px !important" }}>{children}</DialogContent>
        <DialogActions>
          <Button onClick={onClose}>{say("cancel")}</Button>
          <Button type="submit" variant="contained" disabled={running}>
            {say("add")}
          </Button>
        </DialogActions>
      </Box>
    </Dialog>
  );
}

export function LotDialog({ open, onClose, onAdded }: Props) {
  const form = useDeedForm("lot.add", {
    start: { code: "", seller: "", priceMinor: "", carriageMinor: "", unitsPromised: "" },
    emptyIs: { carriageMinor: 0 },
    rest: () => ({}),
    onDone: ({ id }) => {
      onAdded(id);
      onClose();
    },
  });
  return (
    <Small open={open} onClose={onClose} title={say("newLot")} onSave={form.send} running={form.running}>
      <TypedField form={form} name="code" label={say("code")} autoFocus />
      <TypedField form={form} name="seller" label={say("seller")} />
      <TypedField form={form} name="priceMinor" label={say("priceOfTheLot")} />
      <TypedField form={form} name="carriageMinor" label={say("carriage")} />
      <TypedField
        form={form}
        name="unitsPromised"
        label={say("howManyUnits")}
        helperText={say("thoseStillToComeKeepTheir")}
      />
      <Problem problem={form.problem} />
    </Small>
  );
}

export function CustomerDialog({ open, onClose, onAdded }: Props) {
  const form = useDeedForm("customer.add", {
    start: { name: "", contact: "" },
    rest: () => ({}),
    onDone: ({ id }) => {
      onAdded(id);
      onClose();
    },
  });
  return (
    <Small open={open} onClose={onClose} title={say("newCustomer")} onSave={form.send} running={form.running}>
      <TypedField form={form} name="name" label={say("name")} autoFocus />
      <TypedField form={form} name="contact" label={say("howToReachThem")} />
      <Problem problem={form.problem} />
    </Small>
  );
}
