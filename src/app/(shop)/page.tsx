import { database } from "@/db/connection";
import { pagePerson } from "@/door/page";
import { wakeUps } from "@/service/allocate";
import { nextFor } from "@/service/dayplan";
import { awaitedAnswers } from "@/service/questions";
import { benchView } from "@/service/views";
import { Bench } from "@/ui/bench/Bench";

export default async function BenchPage() {
  const actor = await pagePerson();
  const db = database();
  const mine = actor.role === "viewer" ? null : await nextFor(db, actor);
  return <Bench mine={mine} view={await benchView(db)} answers={await awaitedAnswers(db)} wakes={await wakeUps(db)} />;
}
