"use client";

import { useEffect, useMemo, useRef, useState } from "react";

import { connectedPads, type Pad } from "@/browser/gamepad";
import { SerialLine } from "@/browser/serial";
import type { Supply } from "@/core/bench/cells";
import type { Instrument } from "@/core/instrument/instrument";
import { ScpiMeter } from "@/core/instrument/scpi";
import { BENCH_PRESETS, SimulatedMeter } from "@/core/simulate/instruments";
import { instrumentProblemText } from "@/features/test/words/text";
import { say } from "@/features/test/words/words";

/**
 * Where the figures come from: typed, made up, or a meter on a serial line. The choice lasts while the tab is
 * open.
 */
export type ToolKind = "typed" | "simulated" | "serial";
export const SERIAL_TROUBLE = {
  insecure: say("aPlainAddressCannotUseSerial"),
  unsupported: say("thisBrowserHasNoSerialLines"),
  refused: say("noLineWasOpenedNothingWas"),
} as const;

const KEPT = "birdcage-bench-tools";

export type BenchTools = ReturnType<typeof useBenchTools>;

export function useBenchTools(seed: number) {
  const [kind, setKind] = useState<ToolKind>("typed");
  const [preset, setPreset] = useState("healthy");
  const [serial, setSerial] = useState<ScpiMeter | null>(null);
  const [problem, setProblem] = useState<string | null>(null);

  useEffect(() => {
    const kept = sessionStorage.getItem(KEPT);
    if (kept?.startsWith("simulated:")) {
      // eslint-disable-next-line react-hooks/set-state-in-effect -- the tab's own store is there only after hydration
      setKind("simulated");
      setPreset(kept.slice("simulated:".length));
    }
  }, []);
  const keep = (k: ToolKind, p: string) =>
    sessionStorage.setItem(KEPT, k === "simulated" ? `simulated:${p}` : k);

  const connect = async () => {
    setProblem(null);
    const line = await SerialLine.open(9600);
    if (typeof line === "string") return setProblem(SERIAL_TROUBLE[line]);
    const meter = await ScpiMeter.open(line);
    if (!meter.ok) return setProblem(instrumentProblemText(meter.problem));
    setSerial(meter.value);
    setKind("serial");
    keep("serial", preset);
  };
  const labelOf = () => {
    if (kind === "typed") return say("typedByHand");
    if (kind === "simulated") return say("simulatedPreset", { preset });
    return serial?.label ?? say("serialMeter");
  };
  return {
    kind,
    preset,
    faults: BENCH_PRESETS[preset] ?? {},
    seed,
    problem,
    serialLabel: serial?.label ?? null,
    pick: (k: ToolKind) => {
      if (k === "serial" && !serial) return void connect();
      setKind(k);
      keep(k, preset);
    },
    pickPreset: (p: string) => {
      setPreset(p);
      keep(kind, p);
    },
    /** The instrument that gives single figures; null when they are typed. */
    meterFor: (supply: Supply | null, subject: string): Instrument | null => {
      if (kind === "serial") return serial;
      if (kind !== "simulated") return null;
      const none: Supply = { chemistry: "none", cells: 0, nominalVolts: 5, capacityMah: null };
      return new SimulatedMeter(seed + subject.length * 131, supply ?? none, BENCH_PRESETS[preset] ?? {});
    },
    label: labelOf(),
  };
}

/** The controllers that the browser reports, looked at often enough to follow plugging. */
export function usePads(): Pad[] {
  const [pads, setPads] = useState<Pad[]>([]);
  useEffect(() => {
    const look = () => {
      const now = connectedPads();
      setPads((was) => (JSON.stringify(was) === JSON.stringify(now) ? was : now));
    };
    const timer = setInterval(look, 400);
    window.addEventListener("gamepadconnected", look);
    return () => {
      clearInterval(timer);
      window.removeEventListener("gamepadconnected", look);
    };
  }, []);
  return pads;
}

/** Milliseconds since a step was opened, for the shop's own minutes. */
export function useStopwatch(key: string): () => number {
  const began = useRef(0);
  useEffect(() => {
    began.current = Date.now();
  }, [key]);
  return useMemo(() => () => Math.max(0, Date.now() - began.current), []);
}
