import type { TellKind } from "@/core/parts/catalogue";
import { TELL_WORDS } from "@/features/parts/words/text";
import { say } from "@/features/parts/words/words";

const INK = "var(--mui-palette-text-primary)";
const FAINT = "var(--mui-palette-divider)";
const SIGNAL = "var(--mui-palette-primary-main)";

/** What to look at, drawn: on the left as it should be, on the right a copy's. */
export function TellDrawing({ kind }: { kind: TellKind }) {
  const one = (copy: boolean) => {
    const x = copy ? 72 : 0;
    switch (kind) {
      case "inner-colour":
        return (
          <g transform={`translate(${x} 0)`}>
            <circle cx={30} cy={24} r={18} fill="none" stroke={INK} strokeWidth={2} />
            <circle cx={30} cy={24} r={11} fill={copy ? "#ffffff" : "#8b9390"} stroke={INK} strokeWidth={1} />
            <circle cx={30} cy={24} r={4} fill={INK} />
          </g>
        );
      case "moulded-code":
        return (
          <g transform={`translate(${x} 0)`}>
            <rect x={8} y={8} width={44} height={32} rx={4} fill="none" stroke={INK} strokeWidth={2} />
            <path d={copy ? "M16 24h20" : "M16 20h28M16 28h22"} stroke={SIGNAL} strokeWidth={3} />
          </g>
        );
      case "alignment":
        return (
          <g transform={`translate(${x} 0)`}>
            <circle cx={30} cy={22} r={15} fill="none" stroke={INK} strokeWidth={2} />
            <path d={copy ? "M30 22L40 12" : "M30 22V8"} stroke={SIGNAL} strokeWidth={3} />
            <path d="M22 40v6M30 40v6M38 40v6" stroke={INK} strokeWidth={2} />
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
              fill={FAINT}
              stroke={INK}
              strokeWidth={2}
            />
            <path d={copy ? "M57 20v12" : "M57 14v20"} stroke={SIGNAL} strokeWidth={3} />
          </g>
        );
      case "feel":
        return (
          <g transform={`translate(${x} 0)`}>
            <path
              d={copy ? "M6 38Q30 24 54 38" : "M6 38Q10 8 30 8T54 38"}
              fill="none"
              stroke={INK}
              strokeWidth={2}
            />
            <path d="M30 2v8" stroke={SIGNAL} strokeWidth={3} />
          </g>
        );
    }
  };
  return (
    <svg
      viewBox="0 0 134 50"
      width={134}
      height={50}
      style={{ display: "block" }}
      role="img"
      aria-label={say("kindOnTheLeftAsIt", { kind: TELL_WORDS[kind] })}
    >
      {one(false)}
      {one(true)}
    </svg>
  );
}
