import { database, houseDatabase, inPractice } from "@/platform/db/connection";
import { pagePerson } from "@/platform/http/page";
import { wakeUps } from "@/features/parts/wake-ups";
import { backupOverdue } from "@/features/archive/backup";
import { nextFor } from "@/features/day/deeds";
import { awaitedAnswers } from "@/features/questions/deeds";
import { loadSettings } from "@/features/settings/settings";
import { benchView } from "@/features/bench/view";
import { Bench } from "@/features/bench/ui/Bench";

export default async function BenchPage() {
  const actor = await pagePerson();
  const db = database();
  const mine = actor.role === "viewer" ? null : await nextFor(db, actor);
  const { settings } = await loadSettings(db);
  return (
    <Bench
      mine={mine}
      view={await benchView(db)}
      answers={await awaitedAnswers(db)}
      wakes={await wakeUps(db)}
      overdue={actor.role === "lead" && !inPractice() ? await backupOverdue(houseDatabase()) : null}
      shop={settings}
    />
  );
}
