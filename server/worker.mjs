/**
 * A thread of the server's pool: does one heavy task at a time (src/platform/work/tasks.ts). What reads
 * TypeScript is begun here: a thread does not inherit it, and the packages of the papers are modules only.
 */
import { register } from "tsx/esm/api";

register();
const { TASKS } = await import("../src/platform/work/tasks.ts");
const { PAPERS } = await import("../src/print/papers.ts");
const ALL = { ...TASKS, ...PAPERS };

export default ({ name, input }) => ALL[name](input);
