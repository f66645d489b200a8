import { placeName } from "@/core/profile/profile";
import { say } from "@/features/models/words/words";

/** A person's sign-in name as it is written in a sentence. */
export const personName = (name: string): string => name.slice(0, 1).toUpperCase() + name.slice(1);

export const placeWords = (id: string): string => placeName({ id });

/** An id of the program in words; anything else as it stands. */
export const idWords = (text: string): string =>
  /^[a-z0-9]+([.-][a-z0-9]+)*$/.test(text) ? placeWords(text) : text;

/** The browser and the machine behind a user agent, as far as a person wants to know. */
export function browserWords(agent: string): string {
  const browser = /(Firefox|Edg|Chrome|Chromium|Safari)\/(\d+)/.exec(agent);
  const system = /\(([^;)]+)/.exec(agent);
  return browser
    ? `${browser[1]} ${browser[2]}${system ? say("onSystem", { system: String(system[1]) }) : ""}`
    : agent.slice(0, 60);
}

const CORNERS: Record<string, string> = {
  nw: say("upperLeft"),
  ne: say("upperRight"),
  sw: say("lowerLeft"),
  se: say("lowerRight"),
  l: say("left"),
  r: say("right"),
};
/** "back.nw" is called "back upper left". */
export const fastenerName = (id: string): string =>
  id
    .split(/[.-]/)
    .map((word) => CORNERS[word] ?? word)
    .join(" ");
