import { randomUUID } from "node:crypto";

import type { Knex } from "knex";

import type { DeedInput, DeedName, ValueOf } from "@/contract/deeds";
import { dayOf } from "@/core/days/days";
import { doDeed } from "@/features/deeds";
import type { StoredProfile } from "@/features/models/deeds";
import { loadSettings } from "@/features/settings/settings";
import { unitView } from "@/features/units/view";
import type { Actor } from "@/platform/deed/base";

/** The workshop of the demonstration while it is loaded: who does what, how long ago. */

export const HOUR = 3600_000;

export class Workshop {
  readonly now = Date.now();
  readonly actors = new Map<string, Actor>();
  /** ids of what was made, by the name that the story gives it */
  readonly ids = new Map<string, string>();
  models: StoredProfile[] = [];
  /** of the unit that came in before the one whose story is told */
  lastTag = "";

  constructor(readonly db: Knex) {}

  as(name: string, hoursAgo: number): Actor {
    return { ...this.actors.get(name)!, at: new Date(this.now - hoursAgo * HOUR) };
  }

  async deed<D extends DeedName>(
    by: string,
    hoursAgo: number,
    deed: D,
    input: DeedInput<D>,
  ): Promise<ValueOf<D>> {
    const reply = await doDeed(this.db, this.as(by, hoursAgo), deed, randomUUID(), input);
    if (!reply.ok)
      throw new Error(`${deed}: ${JSON.stringify(reply.problem)} for ${JSON.stringify(input).slice(0, 300)}`);
    return reply.value as ValueOf<D>;
  }

  async today(): Promise<string> {
    return dayOf(new Date(this.now), (await loadSettings(this.db)).settings.timeZone);
  }

  /** A unit as it stood for somebody so long ago. */
  async unitFor(by: string, tag: string, ago: number) {
    return (await unitView(this.db, tag, this.as(by, ago)))!;
  }
}
