"use client";

import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { UnitView } from "@/features/units/view";
import { say } from "@/features/release/words/words";
import { BoundField } from "@/ui/form/BoundField";
import { Block, Row, Text } from "@/ui/kit/layout";

/** The unit's label, its size in millimetres; the code carries the tag alone. */
export function LabelOf({ view }: { view: UnitView }) {
  const [size, setSize] = useState({
    w: String(view.settings.labelWidthMm),
    h: String(view.settings.labelHeightMm),
  });
  const valid =
    Number(size.w) >= 15 && Number(size.w) <= 120 && Number(size.h) >= 10 && Number(size.h) <= 120;
  return (
    <Block component="section" aria-label={say("label")} before={4}>
      <Text component="h3" variant="h2" after={1}>
        {say("label")}
      </Text>
      <Row gap={1} at="center">
        <BoundField
          deed="settings.save"
          name="settings.labelWidthMm"
          label={say("widthMm")}
          value={size.w}
          onChange={(w) => setSize({ ...size, w })}
          sx={{ width: 110 }}
        />
        <BoundField
          deed="settings.save"
          name="settings.labelHeightMm"
          label={say("heightMm")}
          value={size.h}
          onChange={(h) => setSize({ ...size, h })}
          sx={{ width: 110 }}
        />
        <Button
          component="a"
          variant="outlined"
          disabled={!valid}
          href={`/labels/pdf?kind=unit&codes=${view.unit.tag}&w=${size.w}&h=${size.h}`}
          target="_blank"
        >
          {say("labelAsPDF")}
        </Button>
        {!valid && <Typography color="error">{say("n15To120Wide10To")}</Typography>}
      </Row>
    </Block>
  );
}
