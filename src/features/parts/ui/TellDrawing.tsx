import Box from "@mui/material/Box";

import type { TellKind } from "@/core/parts/catalogue";
import { TELL_WORDS } from "@/features/parts/words/text";
import { Drawing } from "@/ui/plan/Drawing";
import { INK } from "@/ui/plan/inks";
import { say } from "@/features/parts/words/words";

/** What to look at, drawn: on the left as it should be, on the right a copy's. */
export function TellDrawing({ kind }: { kind: TellKind }) {
  const one = (copy: boolean) => {
    const x = copy ? 72 : 0;
    switch (kind) {
      case "inner-colour":
        return (
          <g transform={`translate(${x} 0)`}>
            <circle cx={30} cy={24} r={18} fill="none" stroke={INK.text} strokeWidth={2} />
            <circle
              cx={30}
              cy={24}
              r={11}
              fill={copy ? "#ffffff" : "#8b9390"}
              stroke={INK.text}
              strokeWidth={1}
            />
            <circle cx={30} cy={24} r={4} fill={INK.text} />
          </g>
        );
      case "moulded-code":
        return (
          <g transform={`translate(${x} 0)`}>
            <rect x={8} y={8} width={44} height={32} rx={4} fill="none" stroke={INK.text} strokeWidth={2} />
            <path d={copy ? "M16 24h20" : "M16 20h28M16 28h22"} stroke={INK.signal} strokeWidth={3} />
          </g>
        );
      case "alignment":
        return (
          <g transform={`translate(${x} 0)`}>
            <circle cx={30} cy={22} r={15} fill="none" stroke={INK.text} strokeWidth={2} />
            <path d={copy ? "M30 22L40 12" : "M30 22V8"} stroke={INK.signal} strokeWidth={3} />
            <path d="M22 40v6M30 40v6M38 40v6" stroke={INK.text} strokeWidth={2} />
          </g>
        );
      case "thickness":
        return (
          <g transform={`translate(${x} 0)`}>
            <rect
              x={8}
              y={copy ? 20 : 14}
              width={44}
              height={copy ? 12 : 20}
              fill={INK.ground}
              stroke={INK.text}
              strokeWidth={2}
            />
            <path d={copy ? "M57 20v12" : "M57 14v20"} stroke={INK.signal} strokeWidth={3} />
          </g>
        );
      case "feel":
        return (
          <g transform={`translate(${x} 0)`}>
            <path
              d={copy ? "M6 38Q30 24 54 38" : "M6 38Q10 8 30 8T54 38"}
              fill="none"
              stroke={INK.text}
              strokeWidth={2}
            />
            <path d="M30 2v8" stroke={INK.signal} strokeWidth={3} />
          </g>
        );
    }
  };
  return (
    <Box sx={{ width: 134, height: 50 }}>
      <Drawing
        extent={{ x: 0, y: 0, width: 134, height: 50 }}
        role="img"
        label={say("kindOnTheLeftAsIt", { kind: TELL_WORDS[kind] })}
      >
        {() => (
          <>
            {one(false)}
            {one(true)}
          </>
        )}
      </Drawing>
    </Box>
  );
}
