import { database } from "@/db/connection";
import { pagePerson } from "@/door/page";
import { awaitedAnswers } from "@/service/questions";
import { benchView } from "@/service/views";
import { Bench } from "@/ui/bench/Bench";

export default async function BenchPage() {
  await pagePerson();
  return <Bench view={await benchView(database())} answers={await awaitedAnswers(database())} />;
}
