import type { DeedInput } from "@/contract/deeds";
import type { OrderStep } from "@/core/mend/order";
import type { Item } from "@/core/mend/work";
import { refTo } from "@/core/mend/ref";

/** The order as it will stand once what is on its way is done: steps and pieces show at once. */
export function shownOrder<Step extends OrderStep>(
  order: { id: string; line: Step[]; items: Item[] },
  pending: readonly DeedInput<"work.do">[],
): { line: Step[]; items: Item[] } {
  const mine = pending.filter((p) => p.orderId === order.id).map((p) => p.event);
  if (mine.length === 0) return order;
  const keys = new Set(
    mine.map((e) => {
      if (e.kind === "apart" || e.kind === "back") return refTo(e.kind, e.step);
      if (e.kind === "task") return e.task;
      if (e.kind === "gate") return refTo("gate", e.gate);
      return "";
    }),
  );
  // what is taken apart lies outside from that press on: quick hands that turn back at once find every piece
  // of it out
  const items = new Map(order.items.map((i) => [i.id, i]));
  const put = (id: string, state: "in" | "out") => {
    const item = items.get(id);
    if (item) items.set(id, { ...item, state });
  };
  for (const e of mine)
    if (e.kind === "in" || e.kind === "out") put(e.item, e.kind);
    else if (e.kind === "apart")
      for (const id of order.line.find((s) => s.key === refTo("apart", e.step))?.items ?? [])
        if (items.get(id)?.state === "in") put(id, "out");
  return {
    line: order.line.map((s) => (keys.has(s.key) ? { ...s, done: true } : s)),
    items: [...items.values()],
  };
}
