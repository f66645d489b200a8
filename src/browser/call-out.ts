import { tone } from "./sound";

/** Calls out the end of a wait: three tones, and a notification where the person allowed them. */
export function callOut(title: string, body: string): void {
  [0, 260, 520].forEach((delay, i) => setTimeout(() => tone(660 + 110 * i, 200), delay));
  if (typeof Notification !== "undefined" && Notification.permission === "granted")
    new Notification(title, { body, tag: title });
}

export const mayNotify = (): "granted" | "denied" | "default" | "unsupported" =>
  typeof Notification === "undefined" ? "unsupported" : Notification.permission;
export const askToNotify = async (): Promise<void> => void (await Notification.requestPermission());
