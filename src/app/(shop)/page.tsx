import { database } from "@/db/connection";
import { pagePerson } from "@/door/page";
import { wakeUps } from "@/service/allocate";
import { awaitedAnswers } from "@/service/questions";
import { benchView } from "@/service/views";
import { Bench } from "@/ui/bench/Bench";

export default async function BenchPage() {
  await pagePerson();
  const db = database();
  return <Bench view={await benchView(db)} answers={await awaitedAnswers(db)} wakes={await wakeUps(db)} />;
}
