import type { Pad } from "./gamepad";

/** The gamepad's own actuator: one motor at a time. */

type Actuator = {
  playEffect(
    kind: "dual-rumble",
    effect: { duration: number; strongMagnitude: number; weakMagnitude: number },
  ): Promise<string>;
};

const RUN_MS = 900;

/** Runs the heavy or the light motor alone; false when the browser has no way to. */
export async function runMotor(pad: Pad, which: "heavy" | "light"): Promise<boolean> {
  const actuator = navigator.getGamepads()[pad.index]?.vibrationActuator as Actuator | null | undefined;
  if (!actuator) return false;
  const heavy = which === "heavy";
  try {
    return (
      (await actuator.playEffect("dual-rumble", {
        duration: RUN_MS,
        strongMagnitude: heavy ? 1 : 0,
        weakMagnitude: heavy ? 0 : 1,
      })) === "complete"
    );
  } catch {
    return false;
  }
}
