"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import TextField from "@mui/material/TextField";
import { type ReactNode, useState } from "react";

import { parseAmount, parseOptional } from "@/core/money/money";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { say } from "@/words/intake";

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
  const deed = useDeed("lot.add");
  const [v, setV] = useState({ code: "", seller: "", price: "", carriage: "", units: "" });
  const set = (k: keyof typeof v) => (e: { target: { value: string } }) => setV({ ...v, [k]: e.target.value });
  const price = parseAmount(v.price);
  const carriage = parseOptional(v.carriage);
  const badUnits = v.units.trim() !== "" && !/^[1-9]\d{0,2}$/.test(v.units.trim());
  const save = async () => {
    if (price === null || carriage === null || badUnits) return;
    const done = await deed.run({
      code: v.code,
      seller: v.seller,
      priceMinor: price,
      carriageMinor: carriage,
      unitsPromised: v.units.trim() ? Number(v.units) : null,
    });
    if (!done?.ok) return;
    onAdded(done.value.id);
    onClose();
  };
  const bad = v.price !== "" && price === null;
  return (
    <Small open={open} onClose={onClose} title={say("newLot")} onSave={save} running={deed.running}>
      <TextField label={say("code")} value={v.code} onChange={set("code")} autoFocus required />
      <TextField label={say("seller")} value={v.seller} onChange={set("seller")} required />
      <TextField
        label={say("priceOfTheLot")}
        value={v.price}
        onChange={set("price")}
        required
        error={bad}
        helperText={bad ? say("anAmountSuchAs12000") : ""}
      />
      <TextField label={say("carriage")} value={v.carriage} onChange={set("carriage")} />
      <TextField
        label={say("howManyUnits")}
        value={v.units}
        onChange={set("units")}
        error={badUnits}
        helperText={badUnits ? say("aNumberFrom1To999") : say("thoseStillToComeKeepTheir")}
      />
      <Problem problem={deed.problem} />
    </Small>
  );
}

export function CustomerDialog({ open, onClose, onAdded }: Props) {
  const deed = useDeed("customer.add");
  const [v, setV] = useState({ name: "", contact: "" });
  const save = async () => {
    const done = await deed.run(v);
    if (!done?.ok) return;
    onAdded(done.value.id);
    onClose();
  };
  return (
    <Small open={open} onClose={onClose} title={say("newCustomer")} onSave={save} running={deed.running}>
      <TextField label={say("name")} value={v.name} onChange={(e) => setV({ ...v, name: e.target.value })} autoFocus required />
      <TextField label={say("howToReachThem")} value={v.contact} onChange={(e) => setV({ ...v, contact: e.target.value })} />
      <Problem problem={deed.problem} />
    </Small>
  );
}
