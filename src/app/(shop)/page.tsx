import { database, houseDatabase, inPractice } from "@/db/connection";
import { pagePerson } from "@/door/page";
import { wakeUps } from "@/service/allocate";
import { backupOverdue } from "@/service/backup";
import { nextFor } from "@/service/dayplan";
import { awaitedAnswers } from "@/service/questions";
import { loadSettings } from "@/service/settings";
import { benchView } from "@/service/views";
import { Bench } from "@/ui/bench/Bench";

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
